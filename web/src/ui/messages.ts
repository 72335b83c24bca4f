// What the application has to say of what was just done: one line at the foot of the window. What went wrong stays until it
// was read; what went well makes room by itself.

export type Tone = 'plain' | 'good' | 'warn' | 'bad';
export interface Message {
  id: number;
  tone: Tone;
  text: string;
  action?: { label: string; run: () => void } | undefined;
}

const goodForMs = 6000;
const mostKept = 30;

let messages: readonly Message[] = [],
  last = 0;
const listeners = new Set<() => void>();
const set = (next: readonly Message[]): void => {
  messages = next;
  for (const tell of listeners) tell();
};

export const messageStore = {
  list: (): readonly Message[] => messages,
  subscribe: (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  dismiss: (id: number): void => {
    set(messages.filter((m) => m.id !== id));
  },
};

/** Says something; what only informs takes the place of what only informed. Answers a way to take it away again. */
function say(tone: Tone, text: string, action?: Message['action']): () => void {
  const id = ++last;
  const kept = messages.filter((m) => (m.tone === 'bad' || m.tone === 'warn') && m.text !== text);
  set([...kept, { id, tone, text, action }].slice(-mostKept));
  const dismiss = (): void => {
    messageStore.dismiss(id);
  };
  if (tone === 'plain' || tone === 'good') setTimeout(dismiss, goodForMs);
  return dismiss;
}

export const toast = Object.assign((text: string, action?: Message['action']) => say('plain', text, action), {
  success: (text: string, action?: Message['action']) => say('good', text, action),
  warning: (text: string, action?: Message['action']) => say('warn', text, action),
  error: (text: string, action?: Message['action']) => say('bad', text, action),
});
