export * from './read-template';
export * from './understand-template';
export { type DraftFault, draftRulebook, type TemplateSettings } from './draft-rulebook';
