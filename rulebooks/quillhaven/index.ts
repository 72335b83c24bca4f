import rulebook from './rulebook.json' with { type: 'json' };

/** Quillhaven's rulebook as its document; `parseRulebook` of the core reads it. */
export const quillhavenDocument: unknown = rulebook;
