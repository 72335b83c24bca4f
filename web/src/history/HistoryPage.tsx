import { PageHead, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { ChangeSets } from './ChangeSets';
import { HistoryLog } from './HistoryLog';
import { SetCells } from './SetCells';
import { say } from '../ui/text';
import { WhoFilter } from './WhoFilter';

/** Every bulk change with before and after, to read later and to take back; and who did what. */
export function HistoryPage() {
  const [view, setView] = useUrlValue('view', 'changes'),
    [who, setWho] = useUrlValue('who'),
    [open, setOpen] = useUrlValue('set');
  return (
    <>
      <PageHead title={say`Change history`}>
        <WhoFilter who={who} onChoose={setWho} />
      </PageHead>
      <Views
        label={say`Views of history`}
        now={view}
        onChoose={setView}
        views={[
          { key: 'changes', label: say`Change sets` },
          { key: 'log', label: say`Who did what` },
        ]}
      />
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {view === 'log' ? (
          <HistoryLog key={who} by={who} />
        ) : (
          <ChangeSets
            key={who}
            by={who}
            onOpen={(id) => {
              setOpen(String(id));
            }}
          />
        )}
      </div>
      {open && (
        <SetCells
          key={open}
          id={Number(open)}
          onClose={() => {
            setOpen('');
          }}
        />
      )}
    </>
  );
}
