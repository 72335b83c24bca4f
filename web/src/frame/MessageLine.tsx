import { useSyncExternalStore } from 'react';
import { messageStore, type Tone } from '../ui/messages';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

const tones: Record<Tone, string> = { plain: '', good: 'text-success', warn: 'text-warning', bad: 'text-error' };

/** One line at the foot of the window; several that went wrong are read one after the other. */
export function MessageLine() {
  const messages = useSyncExternalStore(messageStore.subscribe, messageStore.list);
  const now = messages[0];
  return (
    <footer className="col-span-2 flex h-7 items-center gap-3 overflow-hidden border-t border-base-300 bg-base-200 px-4">
      <p
        role={now?.tone === 'bad' ? 'alert' : 'status'}
        aria-label={say`Message`}
        className={`min-w-0 flex-1 truncate ${now ? tones[now.tone] : ''}`}
        title={now?.text}
      >
        {now?.text}
      </p>
      {now?.action && (
        <button
          type="button"
          className="btn btn-xs"
          onClick={() => {
            now.action?.run();
            messageStore.dismiss(now.id);
          }}
        >
          {now.action.label}
        </button>
      )}
      {messages.length > 1 && <span className="quiet">{tell`1 of ${messages.length}`}</span>}
      {now && (
        <button
          type="button"
          className="btn btn-ghost btn-xs"
          onClick={() => {
            messageStore.dismiss(now.id);
          }}
        >
          {messages.length > 1 ? say`Next` : say`Read`}
        </button>
      )}
    </footer>
  );
}
