import { useQuery } from '@tanstack/react-query';
import {
  BookOpen,
  History,
  Keyboard,
  Moon,
  Plug,
  Plus,
  Rows3,
  ScrollText,
  Search,
  Sun,
  Building2,
  Users,
} from 'lucide-react';
import { type ReactNode, useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useLiveUpdates } from '../api/live';
import { UnsavedStrip } from '../saving/UnsavedStrip';
import { count, say } from '../ui/text';
import { Empty, Loading } from '../ui/faces';
import { Jobs } from './Jobs';
import { Keys } from './Keys';
import { LanguageChoice } from './LanguageChoice';
import { AllSeal, MarketSeal } from './MarketSeal';
import { MessageLine } from './MessageLine';
import { Palette } from './Palette';
import { marketsQuery, type Stop, stopNames, stops, useScope } from './scope';
import { fieldsQuery } from '../own/fields';
import { PersonChoice } from '../people/PersonChoice';
import { overviewQuery } from './queries';

const waiting: Record<Stop, string> = {
  gather: say`imports wait`,
  prepare: say`items without a category`,
  check: say`listings are blocked`,
  send: say`rows are ready to go`,
  settle: say`lines need you`,
};

export function Frame() {
  const { scope, isAll } = useScope();
  const isConnected = useLiveUpdates();
  const location = useLocation(),
    navigate = useNavigate();
  const overview = useQuery(overviewQuery(isAll ? '' : scope)).data;
  const known = useQuery(marketsQuery);
  const fields = useQuery(fieldsQuery);
  const markets = known.data?.rows ?? [];
  const [isDark, setDark] = useState(() => localStorage.getItem('basileus-theme') === 'porphyry');
  const [open, setOpen] = useState<'' | 'keys' | 'palette'>('');
  useEffect(() => {
    document.documentElement.dataset['theme'] = isDark ? 'porphyry' : 'vellum';
    localStorage.setItem('basileus-theme', isDark ? 'porphyry' : 'vellum');
  }, [isDark]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const typing =
        e.target instanceof HTMLElement &&
        (/^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName) || e.target.isContentEditable);
      if ((e.ctrlKey || e.metaKey) && e.key === 'k') {
        e.preventDefault();
        setOpen((o) => (o === 'palette' ? '' : 'palette'));
      } else if (e.key === '?' && !typing) {
        e.preventDefault();
        setOpen('keys');
      } else if (e.altKey && /^[0-5]$/.test(e.key)) {
        e.preventDefault();
        void navigate(e.key === '0' ? '/' : `/${scope}/${stops[Number(e.key) - 1]}`);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => {
      window.removeEventListener('keydown', onKey);
    };
  }, [navigate, scope]);
  const stop = location.pathname.split('/')[2];
  const pathFor = (s: string) => `/${s}/${(stops as readonly string[]).includes(stop ?? '') ? stop : 'prepare'}`;
  return (
    <div className="grid h-full grid-cols-[auto_1fr] grid-rows-[auto_minmax(0,1fr)_auto]">
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-base-100 focus:p-2">
        {say`To the page`}
      </a>
      <header className="col-span-2 flex items-stretch border-b border-base-300 bg-base-100">
        <Link to="/" className="flex items-center gap-2.5 px-4 py-2 text-primary" aria-label={say`Basileus, home`}>
          <svg viewBox="0 0 32 32" width="26" height="26" aria-hidden="true">
            <rect x="1" y="1" width="30" height="30" rx="3" fill="currentColor" />
            <path
              d="M10 24V8h6.2c3 0 4.8 1.5 4.8 3.9 0 1.8-1 3-2.6 3.5 2 .4 3.3 1.8 3.3 4 0 2.9-2.1 4.6-5.4 4.6z"
              fill="none"
              stroke="var(--color-base-100)"
              strokeWidth="2.2"
            />
          </svg>
          <span className="hidden font-serif text-lg font-semibold md:inline">Basileus</span>
        </Link>
        <nav aria-label={say`The path`} className="flex min-w-0 flex-1 items-stretch overflow-x-auto">
          {stops.map((s, i) => {
            const n = overview?.stops[s];
            return (
              <NavLink
                key={s}
                to={`/${scope}/${s}`}
                title={say`${n === undefined ? '' : `${n} ${waiting[s]} `}(Alt+${i + 1})`}
                className={({ isActive }) =>
                  `relative flex items-center gap-2 border-b-[3px] px-3 pt-[3px] lg:px-5 ${isActive ? 'border-primary font-semibold' : 'border-transparent hover:bg-base-200'}`
                }
              >
                {i > 0 && (
                  <span
                    aria-hidden="true"
                    className="absolute start-0 h-4 w-px -translate-x-1/2 rotate-[24deg] bg-base-300"
                  />
                )}
                <span className="font-serif text-lg">{stopNames[s]}</span>
                {n !== undefined && n > 0 && (
                  <span className="num quiet" aria-label={`${n} ${waiting[s]}`}>
                    {count(n)}
                  </span>
                )}
              </NavLink>
            );
          })}
        </nav>
        <div className="flex items-center gap-1 px-2">
          <UnsavedStrip />
          {!isConnected && (
            <span role="status" className="px-2 text-warning">
              {say`Reconnecting …`}
            </span>
          )}
          <button
            type="button"
            className="btn btn-ghost btn-sm gap-2"
            onClick={() => {
              setOpen('palette');
            }}
            aria-label={say`Search and commands`}
          >
            <Search size={16} />
            <kbd className="num hidden text-xs quiet xl:inline">{say`Ctrl K`}</kbd>
          </button>
          <Jobs />
          <button
            type="button"
            className="btn btn-ghost btn-sm btn-square"
            aria-label={say`Keys`}
            onClick={() => {
              setOpen('keys');
            }}
          >
            <Keyboard size={16} />
          </button>
          <LanguageChoice />
          <PersonChoice />
          <button
            type="button"
            className="btn btn-ghost btn-sm btn-square"
            aria-label={isDark ? say`Light theme` : say`Dark theme`}
            onClick={() => {
              setDark(!isDark);
            }}
          >
            {isDark ? <Sun size={16} /> : <Moon size={16} />}
          </button>
        </div>
      </header>
      <nav
        aria-label={say`The scope`}
        className="flex w-14 flex-col gap-0.5 overflow-y-auto border-e border-base-300 bg-base-200 py-3 lg:w-44"
      >
        <ScopeLink
          to={pathFor('all')}
          isActive={scope === 'all' && stop !== undefined && (stops as readonly string[]).includes(stop)}
          seal={<AllSeal />}
          label={say`All markets`}
        />
        {markets.map((m) => (
          <ScopeLink
            key={m.key}
            to={pathFor(m.key)}
            isActive={scope === m.key}
            seal={<MarketSeal name={m.name} />}
            label={m.name}
            detail={m.sites.map((s) => `${s.country} · ${s.currency}`).join(', ')}
          />
        ))}
        {!isAll && (
          <>
            <SideLink to={`/${scope}/rulebook`} icon={<BookOpen size={14} />} label={say`Rulebook`} />
            <SideLink to={`/${scope}/connection`} icon={<Plug size={14} />} label={say`Connection`} />
          </>
        )}
        <SideLink to="/all/markets/new" icon={<Plus size={14} />} label={say`Add a market`} />
        <div className="flex-1" />
        <SideLink to="/all/own" icon={<Rows3 size={15} />} label={say`Our catalog`} />
        <SideLink to="/all/gather/sources" icon={<Building2 size={15} />} label={say`Business systems`} />
        <SideLink to="/all/gather/recipes" icon={<ScrollText size={15} />} label={say`Recipes`} />
        <SideLink to="/all/history" icon={<History size={15} />} label={say`Change history`} />
        <SideLink to="/all/people" icon={<Users size={15} />} label={say`People`} />
      </nav>
      <main id="page" className="flex min-h-0 min-w-0 flex-col overflow-hidden">
        {(!known.data && known.isLoading) || fields.isLoading ? (
          <Loading />
        ) : !isAll && known.data && !markets.some((m) => m.key === scope) ? (
          <Empty title={say`There is no market “${scope}”.`}>{say`Choose one on the left, or all markets.`}</Empty>
        ) : (
          <Outlet />
        )}
      </main>
      <MessageLine />
      {open === 'keys' && (
        <Keys
          onClose={() => {
            setOpen('');
          }}
        />
      )}
      {open === 'palette' && (
        <Palette
          onClose={() => {
            setOpen('');
          }}
          onKeys={() => {
            setOpen('keys');
          }}
          onTheme={() => {
            setDark(!isDark);
            setOpen('');
          }}
        />
      )}
    </div>
  );
}

const ScopeLink = ({
  to,
  isActive,
  seal,
  label,
  detail,
}: {
  to: string;
  isActive: boolean;
  seal: ReactNode;
  label: string;
  detail?: string;
}) => (
  <Link
    to={to}
    aria-current={isActive ? 'true' : undefined}
    className={`border-s-[3px] px-1 py-1.5 lg:px-3.5 hover:bg-base-300/50 ${isActive ? 'border-primary bg-base-100 font-semibold' : 'border-transparent'}`}
  >
    <span className="flex justify-center lg:hidden" aria-hidden="true">
      {seal}
    </span>
    <span className="sr-only lg:not-sr-only">{label}</span>
    {detail && <span className="hidden text-xs font-normal quiet lg:block">{detail}</span>}
  </Link>
);

/** A page of the scope's own, beside the path. */
function SideLink({ to, icon, label }: { to: string; icon: ReactNode; label: string }) {
  return (
    <NavLink
      to={to}
      title={label}
      className={({ isActive }) =>
        `flex items-center justify-center gap-2 px-4 py-1.5 text-sm hover:bg-base-300/50 lg:justify-start ${isActive ? 'font-semibold' : 'quiet'}`
      }
    >
      {icon}
      <span className="hidden lg:inline">{label}</span>
    </NavLink>
  );
}
