import rulebook from './rulebook.json' with { type: 'json' };

/** Torgvik's rulebook as its document; `parseRulebook` of the core reads it. */
export const torgvikDocument: unknown = rulebook;
