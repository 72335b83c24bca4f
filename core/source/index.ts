export { createFamilyMaker, type FamilyRow, findSharedTitle } from './families';
export {
  type Clash,
  createClashJudge,
  type FormedRow,
  type Former,
  type FormerMade,
  prepareSource,
  type SourceCounts,
  toSourceBook,
} from './form';
export {
  guessRules,
  mostSourceFields,
  type Owner,
  owners,
  type RulePart,
  type SourceRow,
  type SourceRules,
  sourceRules,
} from './source';
