// Files as Python reads them: a parser that is not ours, with text for every cell and the digits of every number.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { listColumns } from '@basileus/core/forms';
import type { Form } from '@basileus/core/rulebook';
import iconv from 'iconv-lite';

const readCsv = `
import csv,json,sys
print(json.dumps(list(csv.reader(open(sys.argv[1],encoding=sys.argv[3],newline=""),delimiter=sys.argv[2]))))`;
const readXml = `
import json,sys
import xml.etree.ElementTree as E
def flat(element,path,out,many):
    for k,v in element.attrib.items():
        if not (k in ("tongue","name") and len(element.attrib)>=1 and path): out[".".join(path+["@"+k])]=v
    for child in element:
        told=next((k for k in ("tongue","name") if k in child.attrib),None)
        at=path+[child.tag+(f"[{told}={child.attrib[told]}]" if told else "")]
        name=".".join(at)
        if name+"[]" in many: out.setdefault(name+"[]",[]).append(child.text or "")
        else:
            if child.text and len(child)==0: out[name]=child.text
            flat(child,at,out,many)
    return out
many=set(sys.argv[2].split(","))
print(json.dumps([flat(e,[],{},many) for e in E.parse(sys.argv[1]).getroot()]))`;
const readJsonLines = `
import json,sys
from decimal import Decimal
def flat(value,path,out):
    if isinstance(value,dict):
        for k,v in value.items(): flat(v,path+[k],out)
    elif isinstance(value,list): out[".".join(path)+"[]"]=[str(v) for v in value]
    else: out[".".join(path)]=json.dumps(value) if isinstance(value,bool) else str(value)
    return out
print(json.dumps([flat(json.loads(line,parse_float=Decimal),[],{}) for line in open(sys.argv[1],encoding="utf-8")]))`;

/** Records of a file by the keys of their slots; a list as its entries, what is not there left out. */
export function readByPython(form: Form, text: string): Record<string, string | string[]>[] {
  const folder = mkdtempSync(join(tmpdir(), 'forms-'));
  try {
    const file = join(folder, 'file');
    const run = (program: string, ...more: string[]): unknown =>
      JSON.parse(
        execFileSync('/usr/bin/python3', ['-c', program, file, ...more], {
          encoding: 'utf8',
          maxBuffer: 200_000_000,
        }),
      );
    const { container } = form;
    if (container.kind === 'xml') {
      writeFileSync(file, text);
      const many = form.slots.map((s) => s.key).filter((k) => k.endsWith('[]'));
      return run(readXml, many.join(',')) as Record<string, string | string[]>[];
    }
    if (container.kind !== 'delimited') {
      writeFileSync(file, text);
      return run(readJsonLines) as Record<string, string | string[]>[];
    }
    const isJapanese = container.encoding === 'shift_jis';
    if (isJapanese) writeFileSync(file, iconv.encode(text, 'shift_jis'));
    else writeFileSync(file, `${container.encoding === 'utf-8-mark' ? '\ufeff' : ''}${text}`);
    const sign = { tab: '\t', comma: ',', semicolon: ';', pipe: '|' }[container.delimiter];
    const rows = run(readCsv, sign, isJapanese ? 'cp932' : 'utf-8-sig') as string[][];
    const columns = listColumns(form).map((c) => c.key);
    if (rows.some((r) => r.length !== columns.length)) throw new Error(`${form.key}: rows of several lengths.`);
    const keys = rows[container.heads.findIndex((h) => h.row === 'keys')] ?? columns;
    return rows
      .slice(container.heads.length)
      .map((r) => Object.fromEntries(r.map((c, i) => [keys[i]!, c] as const).filter(([, c]) => c !== '')));
  } finally {
    rmSync(folder, { recursive: true });
  }
}
