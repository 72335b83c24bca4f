export * from './which';
export { type ClauseProblem, findClauseProblem, listTests, spreadMeasure, toCode } from './tests';
export { wordClause, wordClauseProblem, wordRows, wordTest, wordWhich } from './word';
