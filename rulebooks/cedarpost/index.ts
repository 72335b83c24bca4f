import rulebook from './rulebook.json' with { type: 'json' };

/** Cedarpost's rulebook as its document; `parseRulebook` of the core reads it. */
export const cedarpostDocument: unknown = rulebook;
