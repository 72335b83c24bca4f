import { Modal } from '../ui/Modal';
import { say } from '../ui/text';

const groups: { title: string; keys: [string, string][] }[] = [
  {
    title: say`Anywhere`,
    keys: [
      [say`Ctrl K`, say`Search and commands`],
      [say`Alt 1 … Alt 5`, say`The five stops of the path`],
      [say`Alt 0`, say`Home`],
      ['?', say`These keys`],
      [say`Esc`, say`Close what is open`],
    ],
  },
  {
    title: say`In a table`,
    keys: [
      [say`Arrows, Page, Home, End`, say`Move; with Ctrl to the edge, with Shift select`],
      [say`Enter or F2`, say`Edit the cell; Enter again goes down`],
      [say`Any letter`, say`Type over the cell`],
      [say`Delete`, say`Empty the selected cells`],
      [say`Ctrl C, Ctrl X, Ctrl V`, say`Copy, cut, paste to and from a spreadsheet`],
      [say`Ctrl D`, say`Fill the first row of the selection down`],
      [say`Ctrl A`, say`Select all`],
      [say`Ctrl Z`, say`Take the last change back`],
      [say`Ctrl Y`, say`Make it again`],
      [say`Ctrl Enter`, say`Open the row`],
      [say`Ctrl B`, say`Change the marked rows in bulk`],
      [say`Ctrl H`, say`Find and replace in the column, over the marked rows or all`],
      [say`Alt ↓`, say`Narrow by the column, order it, hide it`],
    ],
  },
];

export const Keys = ({ onClose }: { onClose: () => void }) => (
  <Modal title={say`Keys`} onClose={onClose} wide>
    <div className="grid gap-6 p-5 md:grid-cols-2">
      {groups.map((g) => (
        <section key={g.title}>
          <h3 className="mb-2 font-semibold">{g.title}</h3>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            {g.keys.map(([k, what]) => (
              <div key={k} className="contents">
                <dt className="num whitespace-nowrap">{k}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  </Modal>
);
