import { matchPictures } from '@basileus/contract';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { z } from 'zod';
import { call } from '../api/call';
import { Empty, PageHead, Refused } from '../ui/faces';
import { Thumb } from '../ui/Thumb';
import { count, plural, say } from '../ui/text';
import { FileButton } from '../ui/FileButton';
import { tell } from '../ui/tell';

type Matched = z.output<typeof matchPictures.response>;
const nameOf = (link: string): string => {
  const name = link.slice(link.lastIndexOf('/') + 1);
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
};

/** Pictures given to items by what their files are called: a list of links or names, what would come of it, and on to an import. */
export function MatchPage() {
  const navigate = useNavigate();
  const [text, setText] = useState(''),
    [under, setUnder] = useState(''),
    [how, setHow] = useState<'replace' | 'add'>('replace');
  const links = text.split(/\r?\n/).filter((l) => l.trim() !== '');
  const match = useMutation({
    mutationFn: (bring: boolean) => call(matchPictures, { body: { links, under: under.trim(), how, bring } }),
    onSuccess: (r) => {
      if (r.import !== null) void navigate(`/all/gather/imports/${r.import}`);
    },
  });
  const forget = () => {
    match.reset();
  };
  const matched = match.data?.import === null ? match.data : undefined;
  return (
    <>
      <PageHead
        title={say`Pictures by their names`}
        about={say`A picture is of the item whose SKU or barcode its name begins with, or in whose folder it lies; “main” and “front” come first, then numbers.`}
      />
      <div className="grid min-h-0 flex-1 gap-5 overflow-auto border-t border-base-300 p-5 lg:grid-cols-[26rem_1fr]">
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            match.mutate(false);
          }}
        >
          <label className="flex flex-col gap-1">
            <span className="text-sm">{say`Links, or names of files, one a line`}</span>
            <textarea
              className="textarea num h-64 w-full text-xs"
              value={text}
              placeholder={`MG-DUNE-WHI_main.jpg
MG-DUNE-WHI_2.jpg
MG-DUNE-NAV/01.jpg`}
              onChange={(e) => {
                setText(e.target.value);
                forget();
              }}
            />
          </label>
          <FileButton
            label={say`Files whose names are taken`}
            accept="image/*"
            multiple
            className="btn btn-sm w-fit"
            onFiles={(_, all) => {
              // Only their names are read: markets fetch pictures from where they are published.
              setText([...links, ...all.map((f) => f.webkitRelativePath || f.name)].join('\n'));
              forget();
            }}
          >
            {say`Take them from a folder …`}
          </FileButton>
          <label className="flex flex-col gap-1">
            <span className="text-sm">{say`Address under which files are published that are only named`}</span>
            <input
              className="input input-sm num w-full"
              value={under}
              placeholder="https://pictures.example/goods/"
              onChange={(e) => {
                setUnder(e.target.value);
                forget();
              }}
            />
          </label>
          <fieldset className="flex flex-col gap-1 text-sm">
            <legend className="mb-1">{say`Pictures that an item has already`}</legend>
            {(
              [
                ['replace', say`give way to these`],
                ['add', say`stay, and these stand behind them`],
              ] as const
            ).map(([key, label]) => (
              <label key={key} className="flex items-center gap-2">
                <input
                  type="radio"
                  className="radio radio-xs"
                  checked={how === key}
                  onChange={() => {
                    setHow(key);
                    forget();
                  }}
                />
                {label}
              </label>
            ))}
          </fieldset>
          <div className="flex gap-2">
            <button type="submit" className="btn btn-sm" disabled={links.length === 0 || match.isPending}>
              {tell`Match ${plural(links.length, 'picture', 'pictures')}`}
            </button>
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={!matched || matched.changed === 0 || match.isPending}
              onClick={() => {
                match.mutate(true);
              }}
            >
              {say`Go on to the import`}
            </button>
          </div>
          {match.error && <Refused error={match.error} />}
        </form>
        {matched ? (
          <Outcome matched={matched} />
        ) : (
          <Empty title={say`Nothing is matched yet.`}>
            {say`What each item would have shows here. Nothing is written before you have looked at the import.`}
          </Empty>
        )}
      </div>
    </>
  );
}

function Outcome({ matched: { items, changed, pictures, rows, unmatched, unclear } }: { matched: Matched }) {
  return (
    <div className="min-w-0">
      <p className="mb-2" role="status">
        {say`${plural(pictures, 'picture is', 'pictures are')} of ${plural(items, 'item', 'items')}; ${changed === 0 ? say`none of them` : changed === items ? say`all of them` : count(changed)} would have others than now.`}
      </p>
      {unmatched.count > 0 && (
        <Left
          title={say`${plural(unmatched.count, 'picture', 'pictures')} of no item of ours`}
          links={unmatched.links}
        />
      )}
      {unclear.count > 0 && (
        <Left
          title={say`${plural(unclear.count, 'picture', 'pictures')} that could be of several items`}
          links={unclear.links.map((u) => `${nameOf(u.link)}: ${u.skus.join(say` or `)}`)}
        />
      )}
      {rows.length > 0 && (
        <table className="plain-table panel">
          <thead>
            <tr>
              <th>SKU</th>
              <th>{say`Title`}</th>
              <th className="text-end">{say`Now`}</th>
              <th>{say`Then, in this order`}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={r.sku}>
                <td className="num whitespace-nowrap">{r.sku}</td>
                <td>{r.title}</td>
                <td className="num text-end">{r.before.length}</td>
                <td>
                  <ol className="flex flex-wrap gap-x-3 gap-y-1">
                    {r.after.map((link, i) => (
                      <li key={`${i}-${link}`} className="flex items-center gap-1.5" title={link}>
                        <span className="num quiet text-xs">{i + 1}</span>
                        <Thumb link={link} className="h-6 w-6" bare />
                        <span className={`text-xs ${r.before.includes(link) ? 'quiet' : ''}`}>{nameOf(link)}</span>
                      </li>
                    ))}
                  </ol>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {changed > rows.length && <p className="mt-2 quiet">{tell`The first ${rows.length} of ${count(changed)}.`}</p>}
    </div>
  );
}

const Left = ({ title, links }: { title: string; links: readonly string[] }) => (
  <details className="mb-2">
    <summary className="cursor-pointer">{title}</summary>
    <ul className="num mt-1 max-h-40 overflow-auto text-xs">
      {links.map((l) => (
        <li key={l}>{l}</li>
      ))}
    </ul>
  </details>
);
