import rulebook from './rulebook.json' with { type: 'json' };

/** Wadiline's rulebook as its document; `parseRulebook` of the core reads it. */
export const wadilineDocument: unknown = rulebook;
