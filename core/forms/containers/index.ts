// Every container by its kind: how records become text, and text records.
import type { Container, Form } from '../../rulebook/schema';
import { listColumns } from '../columns';
import type { Cells, Make, RecordsReading, RecordWriter } from './cell';
import { createLineWriter, readLines } from './delimited';
import { createJsonLinesWriter, readJson, readJsonLines } from './json';
import { createSheetWriter, readSheetRecords } from './workbook';
import { createXmlWriter, readXml } from './xml';

export * from './cell';
export { hasColumns } from './kind';
export { delimiterSigns } from './delimited';
export { readJsonAt } from './json';
export { isPath, jsonPathPattern, xmlPathPattern } from './path';
export { readWorkbookText } from './workbook';
export { notXml } from './xml';

/** Writer of a form's records. A container that only answers come in writes none. */
export function createRecordWriter(form: Form): RecordWriter {
  switch (form.container.kind) {
    case 'delimited':
      return createLineWriter(form.container, listColumns(form), form.text.listSeparator);
    case 'workbook':
      return createSheetWriter(form.container, listColumns(form), form.text.listSeparator);
    case 'json-lines':
      return createJsonLinesWriter(form);
    case 'xml':
      return createXmlWriter(form.container, form.slots);
    case 'json':
      throw new Error('A form is not written as one document of JSON.');
  }
}

/** Reads a container's text into cells by column. Refused where it is not what was agreed. */
export const readRecords = (container: Container, columns: readonly string[], text: string): RecordsReading<Cells> =>
  makeRecords(container, columns, text, (cells) =>
    Object.fromEntries(columns.flatMap((c, i) => (cells[i] === '' ? [] : [[c, cells[i]!] as const]))),
  );

/** The same, made into what is asked as each record is read. */
export function makeRecords<T>(
  container: Container,
  columns: readonly string[],
  text: string,
  make: Make<T>,
): RecordsReading<T> {
  switch (container.kind) {
    case 'delimited':
      return readLines(container, columns, text, make);
    case 'workbook':
      return readSheetRecords(container, columns, text, make);
    case 'json-lines':
      return readJsonLines(columns, text, make);
    case 'xml':
      return readXml(container, columns, text, make);
    case 'json':
      return readJson(container, columns, text, make);
  }
}

/** Lines of a file that stand over its first record. */
export const countHeads = (container: Container): number =>
  container.kind === 'delimited'
    ? container.before.length + container.heads.length
    : container.kind === 'workbook'
      ? container.heads.length
      : 0;
