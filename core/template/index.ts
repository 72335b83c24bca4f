export * from './read-template';
export * from './understand-template';
export {
  type CategorySettings,
  type DraftFault,
  draftedForm,
  draftRulebook,
  type TemplateSettings,
} from './draft-rulebook';
export * from './extend-rulebook';
