import { Modal } from '../ui/Modal';

const groups: { title: string; keys: [string, string][] }[] = [
  {
    title: 'Anywhere',
    keys: [
      ['Ctrl K', 'Search and commands'],
      ['Alt 1 … Alt 5', 'The five stops of the path'],
      ['Alt 0', 'Home'],
      ['?', 'These keys'],
      ['Esc', 'Close what is open'],
    ],
  },
  {
    title: 'In a table',
    keys: [
      ['Arrows, Page, Home, End', 'Move; with Ctrl to the edge, with Shift select'],
      ['Enter or F2', 'Edit the cell; Enter again goes down'],
      ['Any letter', 'Type over the cell'],
      ['Delete', 'Empty the selected cells'],
      ['Ctrl C, Ctrl X, Ctrl V', 'Copy, cut, paste to and from a spreadsheet'],
      ['Ctrl D', 'Fill the first row of the selection down'],
      ['Ctrl A', 'Select all'],
      ['Ctrl Z', 'Take the last change back'],
      ['Ctrl Y', 'Make it again'],
      ['Ctrl Enter', 'Open the row'],
      ['Ctrl B', 'Change the marked rows in bulk'],
      ['Ctrl H', 'Find and replace in the column, over the marked rows or all'],
      ['Alt ↓', 'Narrow by the column, order it, hide it'],
    ],
  },
];

export const Keys = ({ onClose }: { onClose: () => void }) => (
  <Modal title="Keys" onClose={onClose} wide>
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
