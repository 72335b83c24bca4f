import type { FieldBook } from '@basileus/core/product';
import type { RulebookFault } from '@basileus/core/rulebook';
import { SheetError } from '@basileus/core/sheet';
import { readTemplate, type TemplateSheet, understandTemplate } from '@basileus/core/template';
import { say } from '../ui/text';

/** The sheets of a blank template, read here; the reason where there is none to fill in the file. */
export async function readBlank(file: File, fields: FieldBook): Promise<readonly TemplateSheet[] | RulebookFault> {
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    const sheets = await readTemplate(async function* () {
      yield await Promise.resolve(bytes);
    });
    return understandTemplate(sheets, fields)
      ? sheets
      : { path: file.name, reason: say`No sheet of it has a row of headings over rows to fill.` };
  } catch (error) {
    if (!(error instanceof SheetError)) throw error;
    return { path: file.name, reason: `${error.message} ${error.remedy ?? ''}`.trim() };
  }
}
