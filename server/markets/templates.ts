// Blank templates that a market gives out: kept as they came, and filled with the rows of a form. The headings of the template
// and the columns of the form must be the same, or rows would stand under the wrong ones.
import type { Form } from '@basileus/core/rulebook';
import type { FieldBook } from '@basileus/core/product';
import { type ByteSource, fillTemplate, readSheetText, SheetError } from '@basileus/core/sheet';
import { readTemplate, type SaidOfTemplate, type TemplateReading, understandTemplate } from '@basileus/core/template';
import { type Db, rowOf, rowsOf } from '../database';
import { loadFields } from '../fields';
import { dropFile, openFile, readWhole } from '../files';
import { AppError } from '../http';
import { loadMarket, type Market } from './load';
import { say } from '@basileus/core/text';

export interface MarketTemplate {
  form: string;
  name: string;
  sheet: string;
  /** The row of the sheet, from 1, in which the first item stands. */
  first_row: number;
  file_id: number;
  at: Date;
}

/** Bytes of a template at the most: instructions and lists of values, no items. */
export const mostTemplateBytes = 30_000_000;

export const loadTemplates = (db: Db, marketId: number): Promise<MarketTemplate[]> =>
  rowsOf<MarketTemplate>(
    db,
    'select form, name, sheet, first_row, file_id, at from market_templates where market_id = ? order by form',
    [marketId],
  );

/** Why a form cannot be written into a template: the first column that is another; undefined where all are the same. */
function findOtherColumn(form: Form, { columns }: TemplateReading): string | undefined {
  const at = new Map(columns.map((c) => [c.index, c]));
  const width = Math.max(form.slots.length, ...columns.map((c) => c.index + 1));
  for (let i = 0; i < width; i++) {
    const slot = form.slots[i],
      column = at.get(i);
    const isSame = column
      ? slot !== undefined && (slot.label === column.heading || slot.key === column.key)
      : slot !== undefined || i >= form.slots.length;
    if (!isSame) return column?.heading ?? slot?.label ?? slot?.key ?? '';
  }
  return undefined;
}

/** An uploaded template: the market and the form that it is for, where its bytes are, and how it was called. */
export interface Brought {
  market: string;
  form: string;
  file: number;
  name: string;
  said: SaidOfTemplate;
}

/** Where rows go in an uploaded template. Refused where its columns are not those of the form, or it cannot be filled. */
export async function judgeTemplate(
  db: Db,
  { market: key, form: formKey, file, name, said }: Brought,
): Promise<{ sheet: string; firstRow: number }> {
  const market = await loadMarket(db, key);
  const form = market.rulebook.forms.find((f) => f.key === formKey);
  if (form?.container.kind !== 'workbook')
    throw new AppError('bad-input', say`${market.name} has no form “${formKey}” that is a workbook.`, {
      field: 'form',
    });
  const fields = await loadFields(db);
  const read = (as: SaidOfTemplate) => readUpload(name, openFile(db, file), fields, as);
  let reading = await read(said);
  // A newer one is read as was said of the one that is kept, where it is not its columns' own way.
  const kept = (await loadTemplates(db, market.id)).find((t) => t.form === formKey);
  if (kept && Object.keys(said).length === 0 && !(reading && findOtherColumn(form, reading) === undefined)) {
    const again = await read({ sheet: kept.sheet, firstRow: kept.first_row - 1 });
    if (again && findOtherColumn(form, again) === undefined) reading = again;
  }
  if (!reading)
    throw new AppError('unreadable-file', say`No sheet of “${name}” has a row of headings over rows to fill.`, {
      field: 'file',
      remedy: say`Bring the blank template as the market gives it out.`,
    });
  const other = findOtherColumn(form, reading);
  if (other !== undefined)
    throw new AppError('bad-input', say`The columns of “${name}” are not those of the form: “${other}” differs.`, {
      field: 'file',
      remedy: say`Bring it under “Bring a template …”, which makes a rulebook that has its columns.`,
    });
  const { sheet, firstRow } = reading;
  // Filled once with nothing, so that what cannot be filled is known now.
  const blank = await readWhole(db, file);
  tryFilling(name, () => fillTemplate(blank, sheet, firstRow, []));
  return { sheet, firstRow };
}

async function readUpload(
  name: string,
  source: ByteSource,
  fields: FieldBook,
  said: SaidOfTemplate,
): Promise<TemplateReading | undefined> {
  try {
    return understandTemplate(await readTemplate(source), fields, said);
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw new AppError('unreadable-file', say`“${name}” cannot be read: ${error.message}`, {
      field: 'file',
      remedy: error.remedy,
    });
  }
}

/** Keeps a template that was judged; one that was kept for the form before goes. */
export async function keepTemplate(
  db: Db,
  market: Market,
  { form, file, name }: Brought,
  { sheet, firstRow }: { sheet: string; firstRow: number },
): Promise<void> {
  await db.transaction(async (tx) => {
    const before = await rowOf<{ file_id: number }>(
      tx,
      'select file_id from market_templates where market_id = ? and form = ? for update',
      [market.id, form],
    );
    await tx.raw(
      `insert into market_templates (market_id, form, file_id, name, sheet, first_row) values (?, ?, ?, ?, ?, ?)
        on conflict (market_id, form) do update
        set file_id = excluded.file_id, name = excluded.name, sheet = excluded.sheet, first_row = excluded.first_row, at = now()`,
      [market.id, form, file, name, sheet, firstRow + 1],
    );
    if (before) await dropFile(tx, before.file_id);
  });
}

/** Forgets the template of a form: its files are workbooks of one sheet again. */
export async function dropTemplate(db: Db, market: Market, formKey: string): Promise<void> {
  await db.transaction(async (tx) => {
    const gone = await rowOf<{ file_id: number }>(
      tx,
      'delete from market_templates where market_id = ? and form = ? returning file_id',
      [market.id, formKey],
    );
    if (gone) await dropFile(tx, gone.file_id);
  });
}

function tryFilling<T>(name: string, fill: () => T): T {
  try {
    return fill();
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    throw new AppError('unreadable-file', say`“${name}” cannot be filled: ${error.message}`, {
      field: 'file',
      remedy: say`Save it anew in a spreadsheet program and bring it again, or forget it under Rulebook.`,
    });
  }
}

/** The template of a form, ready to be filled with the text of a sheet, and how its files end. */
export interface OpenTemplate {
  fill: (sheetText: string) => Uint8Array;
  ending: string;
}
/** The template that is kept for a form; undefined where none is. */
export async function openTemplate(db: Db, market: Market, form: Form): Promise<OpenTemplate | undefined> {
  const { container } = form;
  const kept = (await loadTemplates(db, market.id)).find((t) => t.form === form.key);
  if (!kept || container.kind !== 'workbook') return undefined;
  const blank = await readWhole(db, kept.file_id);
  return {
    fill: (text) =>
      tryFilling(kept.name, () =>
        fillTemplate(blank, kept.sheet, kept.first_row - 1, (readSheetText(text) ?? []).slice(container.heads.length)),
      ),
    // A workbook with macros is not opened under the name of one without.
    ending: /\.xlsm$/i.test(kept.name) ? '.xlsm' : '.xlsx',
  };
}
