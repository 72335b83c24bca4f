import { useState, useSyncExternalStore } from 'react';
import { Modal } from '../ui/Modal';
import { plural, shown, say } from '../ui/text';
import { giveUp, queue, sendSoon } from './saving';
import { tell } from '../ui/tell';

/** Changes that the server has not taken yet; nothing where it answers. */
export function UnsavedStrip() {
  const entries = useSyncExternalStore(queue.subscribe, queue.list);
  const [isOpen, setOpen] = useState(false);
  const late = entries.some((e) => e.isLate) ? entries : [];
  if (late.length === 0) return null;
  const cells = late.reduce((n, e) => n + e.cells.length, 0);
  return (
    <>
      <button
        type="button"
        role="status"
        className="btn btn-sm border-warning"
        onClick={() => {
          setOpen(true);
        }}
      >
        <span className="text-warning">{tell`${plural(cells, 'change', 'changes')} not saved yet`}</span>
      </button>
      {isOpen && (
        <Modal
          title={say`Not saved yet`}
          wide
          onClose={() => {
            setOpen(false);
          }}
        >
          <div className="flex flex-col gap-3 p-5">
            <p>
              {tell`The server does not answer. ${
                queue.isKept()
                  ? say`These changes are kept in this browser, also when the window is closed, and are saved as soon as it answers.`
                  : say`These changes are too many to be kept over a reload: leave this window open until they are saved.`
              }`}
            </p>
            <table className="plain-table">
              <thead>
                <tr>
                  <th>{say`Change`}</th>
                  <th>{say`To`}</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {late.slice(0, 100).map((e) => (
                  <tr key={e.id}>
                    <td>
                      {e.title || (e.scope === 'products' ? say`Edited in the catalog` : say`Edited for a market`)}
                      {e.cells.length > 1 && `, ${plural(e.cells.length, 'cell', 'cells')}`}
                    </td>
                    <td className="max-w-80 truncate">{shown(e.cells[0]?.after) || '(emptied)'}</td>
                    <td className="text-end">
                      <button
                        type="button"
                        className="btn btn-xs"
                        onClick={() => {
                          giveUp(e.id);
                        }}
                      >
                        {say`Discard`}
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {late.length > 100 && <p className="quiet">{tell`and ${late.length - 100} more`}</p>}
            <button type="button" className="btn btn-sm self-start" onClick={sendSoon}>
              {say`Try now`}
            </button>
          </div>
        </Modal>
      )}
    </>
  );
}
