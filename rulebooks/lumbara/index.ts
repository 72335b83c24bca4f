import rulebook from './rulebook.json' with { type: 'json' };

/** Lumbara's rulebook as its document; `parseRulebook` of the core reads it. */
export const lumbaraDocument: unknown = rulebook;
