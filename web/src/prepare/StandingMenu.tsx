import { canAsk } from '@basileus/core/forms';
import type { Rulebook, Site } from '@basileus/core/rulebook';
import { ChevronDown } from 'lucide-react';
import { type KeyboardEvent, useRef } from 'react';
import { say } from '../ui/text';

interface Props {
  rulebook: Rulebook;
  isOff: boolean;
  onLeaveOut: () => void;
  onWithdraw: () => void;
  onWish: (wish: 'restore' | 'keep') => void;
  /** Whether they are sold at one site of the market. */
  onSite: (site: Site, wanted: boolean) => void;
}

/** Whether the chosen listings are wanted on the market, and are to be taken down or put back. */
export function StandingMenu({ rulebook, isOff, onLeaveOut, onWithdraw, onWish, onSite }: Props) {
  const menu = useRef<HTMLDetailsElement>(null);
  const close = (): void => menu.current?.removeAttribute('open');
  const deeds = [
    {
      label: say`Leave out`,
      title: say`Not wanted on this market: nothing is asked of it, nothing of it goes`,
      act: onLeaveOut,
    },
    ...rulebook.sites
      .filter((s) => s.optional)
      .flatMap((site) =>
        [false, true].map((wanted) => ({
          label: wanted ? say`Sell at ${site.name}` : say`Not at ${site.name}`,
          title: wanted
            ? say`Asked for what ${site.name} demands, and brought there with the next sending`
            : say`Nothing is asked of it for ${site.name}; what stands there ends with the next sending`,
          act: () => {
            onSite(site, wanted);
          },
        })),
      ),
    { label: say`Withdraw …`, title: say`Taken down with the next sending`, act: onWithdraw },
    ...(canAsk(rulebook, 'restore')
      ? [
          {
            label: say`Restore`,
            title: say`Put back with the next sending`,
            act: () => {
              onWish('restore');
            },
          },
        ]
      : []),
    {
      label: say`Keep`,
      title: say`Takes the wish to withdraw or restore back, as long as it has not been sent; what was left out is wanted again`,
      act: () => {
        onWish('keep');
      },
    },
  ];
  if (isOff)
    return (
      <button type="button" className="btn btn-sm" disabled>
        <ChevronDown size={14} className="opacity-50" aria-hidden="true" />
        {say` Standing`}
      </button>
    );
  return (
    <details
      ref={menu}
      className="dropdown dropdown-end"
      onBlur={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget)) close();
      }}
      onKeyDown={(e: KeyboardEvent) => {
        if (e.key !== 'Escape') return;
        close();
        menu.current?.querySelector('summary')?.focus();
      }}
    >
      <summary className="btn btn-sm">{say`Standing`}</summary>
      <ul className="dropdown-content menu z-50 mt-1 w-44 rounded-box border border-base-300 bg-base-100 p-1 shadow-md">
        {deeds.map(({ label, title, act }) => (
          <li key={label}>
            <button
              type="button"
              title={title}
              onClick={() => {
                close();
                act();
              }}
            >
              {label}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
