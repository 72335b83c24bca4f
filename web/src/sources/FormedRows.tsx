import type { FormedShape, RulesTried } from '@basileus/contract';
import { wordRowFault } from '@basileus/core/formula';
import type { SourceRules } from '@basileus/core/source';
import { useFields } from '../own/fields';
import { count, plural, say } from '../ui/text';
import { tell } from '../ui/tell';

type Tried = Extract<RulesTried, { ok: true }>;

const said = (r: FormedShape): { words: string; tone: string } => {
  switch (r.is) {
    case 'fault':
      return { words: r.fault ? wordRowFault(r.fault.fault) : say`cannot be worked out`, tone: 'text-error' };
    case 'no-sku':
      return { words: say`has no SKU`, tone: 'text-error' };
    case 'left-out':
      return { words: say`left out`, tone: 'quiet' };
    case 'formed':
      return r.isClash
        ? { words: say`several rows are this SKU`, tone: 'text-error' }
        : r.held === 'other-barcode'
          ? { words: say`ours has another barcode`, tone: 'text-warning' }
          : r.held === 'yes'
            ? { words: say`in the catalog`, tone: '' }
            : { words: say`new`, tone: 'text-success' };
  }
};

/** A text that is longer has room to be read in. */
const longText = 18;

/** What the rows become: counted, and the first of each kind shown, those in front in which something is wrong. */
export function FormedRows({ tried, rules, isOld }: { tried: Tried; rules: SourceRules; isOld: boolean }) {
  const book = useFields();
  const { counts } = tried;
  const parts = [
    say`${plural(counts.formed, 'item', 'items')} out of ${plural(counts.rows, 'row', 'rows')}`,
    say`${count(counts.held)} in the catalog`,
    say`${count(counts.fresh)} new`,
    counts.leftOut > 0 && say`${count(counts.leftOut)} left out`,
  ].filter((t) => t !== false);
  const wrong = [
    counts.noSku > 0 && say`${plural(counts.noSku, 'row has', 'rows have')} no SKU`,
    counts.faults > 0 && say`${plural(counts.faults, 'row', 'rows')} cannot be worked out`,
    counts.otherBarcode > 0 && say`${plural(counts.otherBarcode, 'item has', 'items have')} another barcode with us`,
  ].filter((t) => t !== false);
  return (
    <div className={`flex flex-col gap-2 ${isOld ? 'opacity-60' : ''}`}>
      <p role="status">
        {parts.join(', ')}.{wrong.length > 0 && <span className="text-warning"> {wrong.join('; ')}.</span>}
      </p>
      {tried.clashCount > 0 && (
        <p className="text-error">
          {tell`${plural(tried.clashCount, 'SKU', 'SKUs')} would be several rows’, and none of these comes: ${(
            <span className="num">
              {tried.clashes
                .slice(0, 8)
                .map((c) => say`${c.sku} (rows ${c.rows.slice(0, 3).join(', ')}${c.count > 3 ? ' …' : ''})`)
                .join(', ')}
            </span>
          )}${tried.clashCount > 8 && say` and ${count(tried.clashCount - 8)} more`}. Form the SKU of more columns, or leave some rows out.`}
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="plain-table panel">
          <thead>
            <tr>
              <th className="text-end">{say`Row`}</th>
              <th>SKU</th>
              <th>{say`Family`}</th>
              <th>{say`It is`}</th>
              {rules.fields.map((f) => (
                <th key={f.field}>{book.labelOf(f.field)}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {tried.rows.map((r) => {
              const { words, tone } = said(r);
              return (
                <tr key={r.row} className={r.is === 'left-out' ? 'quiet' : ''}>
                  <td className="num text-end">{r.row}</td>
                  <td className="num max-w-56 truncate">
                    {r.sku || (
                      <span
                        className="quiet"
                        title={Object.entries(r.cells)
                          .map(([k, v]) => `${k}: ${v}`)
                          .join('\n')}
                      >
                        {Object.values(r.cells).slice(0, 3).filter(Boolean).join(' · ')}
                      </span>
                    )}
                  </td>
                  <td className="num whitespace-nowrap">{r.family}</td>
                  <td className={`whitespace-nowrap ${tone}`}>{words}</td>
                  {rules.fields.map((f, i) => (
                    <td key={f.field}>
                      <span
                        className={`line-clamp-2 max-w-60 break-words ${(r.values[i] ?? '').length > longText ? 'min-w-44' : ''}`}
                      >
                        {r.values[i] ?? ''}
                      </span>
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </div>
  );
}
