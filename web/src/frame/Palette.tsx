import { listProducts } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { Modal } from '../ui/Modal';
import { marketsQuery, stopNames, stops } from './scope';

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
  const found =
    useQuery({
      queryKey: ['products', 'palette', text],
      queryFn: () => call(listProducts, { query: { search: text, limit: 8 } }),
      enabled: text.trim().length > 1,
    }).data?.rows ?? [];
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
  const item = 'flex cursor-pointer gap-3 px-4 py-1.5 data-[selected=true]:bg-primary/10';
  return (
    <Modal title="Search and commands" onClose={onClose}>
      <Command label="Search and commands" shouldFilter={false} value={chosen} onValueChange={setChosen}>
        <Command.Input
          value={text}
          onValueChange={setText}
          data-first
          placeholder="SKU, title, barcode or a command"
          className="w-full border-b border-base-300 bg-transparent px-4 py-3 outline-none"
        />
        <Command.List className="max-h-[50vh] overflow-auto py-2">
          <Command.Empty className="px-4 py-3 quiet">Nothing is called that. Try part of a SKU or title.</Command.Empty>
          {found.length > 0 && (
            <Command.Group heading={<span className="px-4 text-xs quiet">Items</span>}>
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
          <Command.Group heading={<span className="px-4 text-xs quiet">Go to</span>}>
            {[
              { to: '/', label: 'Home' },
              { to: '/all/gather/imports', label: 'Gather: imports' },
              ...['all', ...markets.map((m) => m.key)].flatMap((s) =>
                stops.map((st) => ({
                  to: `/${s}/${st}`,
                  label: `${stopNames[st]}: ${s === 'all' ? 'all markets' : (markets.find((m) => m.key === s)?.name ?? s)}`,
                })),
              ),
              { to: '/all/history', label: 'Change history' },
            ]
              .filter((c) => c.label.toLowerCase().includes(text.toLowerCase()))
              .map((c) => (
                <Command.Item
                  key={c.to}
                  value={c.to}
                  className={item}
                  onSelect={() => {
                    go(c.to);
                  }}
                >
                  {c.label}
                </Command.Item>
              ))}
          </Command.Group>
          <Command.Group heading={<span className="px-4 text-xs quiet">Do</span>}>
            <Command.Item value="do-theme" className={item} onSelect={onTheme}>
              Change between light and dark
            </Command.Item>
            <Command.Item value="do-keys" className={item} onSelect={onKeys}>
              Show the keys
            </Command.Item>
          </Command.Group>
        </Command.List>
      </Command>
    </Modal>
  );
}
