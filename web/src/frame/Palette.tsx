import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { Modal } from '../ui/Modal';
import { marketsQuery, stopNames, stops } from './scope';
import { foundQuery } from './queries';
import { say } from '../ui/text';

const item = 'flex cursor-pointer gap-3 px-4 py-1.5 data-[selected=true]:bg-primary/10';

/** A group of commands; none where nothing in it matches. */
function Commands({
  heading,
  commands,
  onGo,
}: {
  heading: string;
  commands: readonly { to: string; label: string; run?: () => void }[];
  onGo: (to: string) => void;
}) {
  if (commands.length === 0) return null;
  return (
    <Command.Group heading={<span className="px-4 text-xs quiet">{heading}</span>}>
      {commands.map((c) => (
        <Command.Item
          key={c.to}
          value={c.to}
          className={item}
          onSelect={() => {
            if (c.run) c.run();
            else onGo(c.to);
          }}
        >
          {c.label}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** Search over the catalog and the commands, on Ctrl+K. */
export function Palette({
  onClose,
  onKeys,
  onTheme,
}: {
  onClose: () => void;
  onKeys: () => void;
  onTheme: () => void;
}) {
  const [text, setText] = useState('');
  const navigate = useNavigate();
  const markets = useQuery(marketsQuery).data?.rows ?? [];
  const found = useQuery(foundQuery(text)).data?.rows ?? [];
  const [chosen, setChosen] = useState('');
  const first = found[0]?.id;
  // What was looked for comes first; it is chosen as soon as it is there.
  useEffect(() => {
    if (first !== undefined) setChosen(`p${first}`);
  }, [first]);
  const go = (to: string) => {
    onClose();
    void navigate(to);
  };
  const matches = (c: { label: string }): boolean =>
    text
      .toLowerCase()
      .split(/\s+/)
      .every((word) => c.label.toLowerCase().includes(word));
  const places = [
    { to: '/', label: say`Home` },
    { to: '/all/gather/imports', label: say`Gather: imports` },
    { to: '/all/gather/exports', label: say`Gather: files that went out` },
    { to: '/all/gather/pictures', label: say`Gather: pictures by their names` },
    { to: '/all/own?view=pictures', label: say`Our catalog: pictures` },
    { to: '/all/gather/bulk', label: say`Gather: change in bulk` },
    { to: '/all/gather/recipes', label: say`Gather: recipes` },
    ...['all', ...markets.map((m) => m.key)].flatMap((s) =>
      stops.map((st) => ({
        to: `/${s}/${st}`,
        label: `${stopNames[st]}: ${s === 'all' ? say`all markets` : (markets.find((m) => m.key === s)?.name ?? s)}`,
      })),
    ),
    { to: '/all/own', label: say`Our catalog: fields` },
    { to: '/all/own?view=categories', label: say`Our catalog: categories` },
    { to: '/all/own?view=languages', label: say`Our catalog: languages and currencies` },
    { to: '/all/history', label: say`Change history` },
    { to: '/all/people', label: say`People` },
  ].filter(matches);
  return (
    <Modal title={say`Search and commands`} onClose={onClose}>
      <Command label={say`Search and commands`} shouldFilter={false} value={chosen} onValueChange={setChosen}>
        <Command.Input
          value={text}
          onValueChange={setText}
          data-first
          placeholder={say`SKU, title, barcode or a command`}
          className="w-full border-b border-base-300 bg-transparent px-4 py-3 outline-none"
        />
        <Command.List className="max-h-[50vh] overflow-auto py-2">
          <Command.Empty className="px-4 py-3 quiet">{say`Nothing is called that. Try part of a SKU or title.`}</Command.Empty>
          {found.length > 0 && (
            <Command.Group heading={<span className="px-4 text-xs quiet">{say`Items`}</span>}>
              {found.map((p) => (
                <Command.Item
                  key={p.id}
                  value={`p${p.id}`}
                  className={item}
                  onSelect={() => {
                    go(`/all/gather?q=${encodeURIComponent(p.sku)}`);
                  }}
                >
                  <span className="num">{p.sku}</span>
                  <span className="truncate">{String(p.fields['title'] ?? '')}</span>
                </Command.Item>
              ))}
            </Command.Group>
          )}
          <Commands heading={say`Go to`} commands={places} onGo={go} />
          <Commands
            heading={say`Do`}
            commands={[
              { to: 'do-theme', label: say`Change between light and dark`, run: onTheme },
              { to: 'do-keys', label: say`Show the keys`, run: onKeys },
            ].filter(matches)}
            onGo={go}
          />
        </Command.List>
      </Command>
    </Modal>
  );
}
