import { listLanguages } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../api/call';
import { chooseLanguage, house, keptLanguage } from './language';
import { say } from '../ui/text';

/** In which language the interface speaks; nothing where there is English alone. */
export function LanguageChoice() {
  const rows = useQuery({ queryKey: ['languages'], queryFn: () => call(listLanguages), staleTime: Infinity }).data
    ?.rows;
  if (!rows?.length) return null;
  return (
    <select
      className="select select-ghost select-sm w-auto"
      aria-label={say`Language of the interface`}
      value={rows.some((r) => r.language === keptLanguage() && r.fault === null) ? keptLanguage() : house}
      onChange={(e) => {
        chooseLanguage(e.target.value);
      }}
    >
      <option value={house}>English</option>
      {rows.map((r) => (
        <option key={r.language} value={r.language} lang={r.language} disabled={r.fault !== null} title={r.fault ?? ''}>
          {r.name}
        </option>
      ))}
    </select>
  );
}
