import type { Product } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { ChevronDown } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { ItemHistory } from '../history/ItemHistory';
import { AxesAsk } from '../reshape/AxesAsk';
import { CopyAsk } from '../reshape/CopyAsk';
import { FamilyAsk } from '../reshape/FamilyAsk';
import { JoinAsk } from '../reshape/JoinAsk';
import { PartsAsk } from '../reshape/PartsAsk';
import { RemoveAsk } from '../reshape/RemoveAsk';
import { toast } from '../ui/messages';
import { Popover } from '../ui/Popover';
import { count, say } from '../ui/text';
import { WantedAsk } from './WantedAsk';

const mostJoined = 20,
  mostMoved = 5000;

/** What is done with the marked items as wholes: their markets, their family, joined, copied, taken out, and their past. */
export function ItemsMenu({
  marked,
  first,
  idsOf,
  whichOf,
}: {
  marked: number;
  /** The item of the first marked row. */
  first: Product | undefined;
  /** Ids of the marked rows, fetched where they are not here. */
  idsOf: () => Promise<number[]>;
  /** The marked rows as a choice. */
  whichOf: () => Promise<Which>;
}) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [isOpen, setOpen] = useState(false);
  const [dialog, setDialog] = useState<ReactNode>(null);
  const close = () => {
    setDialog(null);
  };
  const show = (make: () => Promise<ReactNode> | ReactNode) => {
    setOpen(false);
    Promise.resolve(make()).then(setDialog, (e: unknown) => {
      toast.error(e instanceof Error ? e.message : say`The rows could not be fetched.`);
    });
  };
  const isOne = marked === 1 && first !== undefined,
    isFamily = isOne && first.kind === 'family';
  const entries: [label: string, isOff: boolean, make: () => Promise<ReactNode> | ReactNode][] = [
    [say`Markets …`, marked === 0, async () => <WantedAsk which={await whichOf()} items={marked} onClose={close} />],
    isFamily
      ? [say`What variants differ by …`, false, () => <AxesAsk family={first} onClose={close} />]
      : [
          say`Family …`,
          marked === 0 || marked > mostMoved,
          async () => <FamilyAsk ids={await idsOf()} onClose={close} />,
        ],
    [
      say`Join to one …`,
      marked < 2 || marked > mostJoined,
      async () => <JoinAsk ids={await idsOf()} onClose={close} />,
    ],
    [
      say`Copy …`,
      !isOne || isFamily || first.kind === 'bundle',
      () => first && <CopyAsk item={first} onClose={close} />,
    ],
    [
      say`Parts of a bundle …`,
      !isOne || (first.kind !== 'single' && first.kind !== 'bundle'),
      () => first && <PartsAsk item={first} onClose={close} />,
    ],
    [say`Take out …`, marked === 0, async () => <RemoveAsk which={await whichOf()} onClose={close} />],
    [say`History …`, !isOne, () => first && <ItemHistory id={first.id} sku={first.sku} onClose={close} />],
  ];
  return (
    <>
      <button
        ref={setButton}
        type="button"
        className="btn btn-sm"
        aria-haspopup="dialog"
        aria-expanded={isOpen}
        disabled={marked === 0 || first === undefined}
        title={say`What is done with the marked items as wholes`}
        onClick={() => {
          setOpen(!isOpen);
        }}
      >
        {isOne ? say`Item` : say`${count(marked)} items`}
        <ChevronDown className="chevron" aria-hidden="true" />
      </button>
      {isOpen && button && (
        <Popover
          under={button}
          label={say`The marked items`}
          width={230}
          onClose={() => {
            setOpen(false);
          }}
        >
          <div className="flex flex-col py-1">
            {entries.map(([label, isOff, make], i) => (
              <button
                key={label}
                type="button"
                {...(i === 0 ? { 'data-first': true } : {})}
                className="px-3 py-1 text-start hover:bg-primary/10 focus-visible:bg-primary/10 disabled:opacity-50"
                disabled={isOff}
                onClick={() => {
                  show(make);
                }}
              >
                {label}
              </button>
            ))}
          </div>
        </Popover>
      )}
      {dialog}
    </>
  );
}
