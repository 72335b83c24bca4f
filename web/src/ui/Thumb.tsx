import { ImageOff } from 'lucide-react';
import { useState } from 'react';
import { isWorthAsking, noteAsked, smallOf } from './small-pictures';
import { say } from './text';

/** What leads to pictures can show: the small one that is kept here, the picture at its host, or a sign that none comes. */
type Shown = 'small' | 'own' | 'none';
const isLink = (link: string): boolean => /^https?:\/\//i.test(link);

/**
 * The picture that a link leads to. `bare` shows nothing where there is no small one: in a table a sign in each row would say
 * nothing. Otherwise its host is asked, and a sign stands where that gives none.
 */
export function Thumb({ link, className, bare = false }: { link: string; className: string; bare?: boolean }) {
  const [shown, setShown] = useState<{ of: string; how: Shown }>();
  const start: Shown = !isLink(link) ? 'none' : isWorthAsking(link, Date.now()) ? 'small' : bare ? 'none' : 'own';
  const how = shown?.of === link ? shown.how : start;
  if (bare && how !== 'small') return null;
  return (
    <span
      className={`flex shrink-0 items-center justify-center overflow-hidden rounded-sm border border-base-300 bg-white ${className}`}
    >
      {how === 'none' ? (
        <ImageOff
          size={16}
          className="quiet"
          aria-label={isLink(link) ? say`This picture does not come` : say`This is no link`}
        />
      ) : (
        <img
          src={how === 'small' ? smallOf(link) : link}
          alt=""
          loading="lazy"
          decoding="async"
          referrerPolicy="no-referrer"
          className="max-h-full max-w-full"
          onLoad={() => {
            if (how === 'small') noteAsked(link, true, Date.now());
          }}
          onError={() => {
            if (how === 'small') noteAsked(link, false, Date.now());
            setShown({ of: link, how: how === 'small' && !bare ? 'own' : 'none' });
          }}
        />
      )}
    </span>
  );
}
