import { describePictures } from '@basileus/contract';
import { queryOptions, useQuery } from '@tanstack/react-query';
import type { z } from 'zod';
import { call } from '../api/call';
import { Thumb } from '../ui/Thumb';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

type Found = z.output<typeof describePictures.response>['rows'][number];
const foundQuery = (links: readonly string[]) =>
  queryOptions({
    queryKey: ['pictures', 'found', links],
    queryFn: () => call(describePictures, { body: { links: [...links] } }),
    enabled: links.length > 0,
  });

const wordFound = (f: Found | undefined): string => {
  switch (f?.state) {
    case 'there':
      return say`${f.width ?? 0} × ${f.height ?? 0}, ${f.kind?.toUpperCase() ?? ''}, ${Math.ceil((f.bytes ?? 0) / 1000)} kB`;
    case 'missing':
      return say`not there (${f.status ?? 0})`;
    case 'strange':
      return say`no picture`;
    case 'unreachable':
      return say`not reached`;
    default:
      return say`not looked at`;
  }
};

/** The pictures of a listing in their order, each with what was found of it. */
export function PictureStrip({ links }: { links: readonly string[] }) {
  const found = useQuery(foundQuery(links.slice(0, 200))).data?.rows;
  if (links.length === 0) return null;
  return (
    <ol aria-label={say`Pictures`} className="mt-1.5 flex flex-wrap gap-3">
      {links.map((link, i) => {
        const own = found?.find((f) => f.link === link);
        const isWrong = own?.state === 'missing' || own?.state === 'strange';
        return (
          <li key={`${i}-${link}`} className="w-24 text-xs">
            <a href={link} target="_blank" rel="noreferrer noopener" title={link}>
              <Thumb link={link} className="h-24 w-24" />
              <span className="sr-only">{tell`Picture ${i + 1}: `}</span>
            </a>
            <span className={isWrong ? 'text-error' : 'quiet'}>{found ? wordFound(own) : ' '}</span>
          </li>
        );
      })}
    </ol>
  );
}
