export * from './read-template';
export * from './understand-template';
export { type DraftFault, draftedForm, draftRulebook, type TemplateSettings } from './draft-rulebook';
