import type { Container } from '../../rulebook/schema';

/** True where records are rows of columns, so that a list is one cell and a cleared field a word. */
export const hasColumns = (container: Container): container is Extract<Container, { heads: unknown }> =>
  container.kind === 'delimited' || container.kind === 'workbook';
