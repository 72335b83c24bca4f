import { toItems } from '../../listing/values';
import { defineCheck } from '../define-check';

/** Pictures sell; the first one is the search thumbnail, and a link that cannot be read shows nothing. */
export const pictureRules = defineCheck({
  id: 'picture-rules',
  level: 'blocker',
  docs: {
    title: 'Pictures are there and can be read',
    why: 'An entry without a readable picture is hidden.',
    source: 'common practice; numbers and schemes from the rulebook',
  },
  messages: {
    tooFew: {
      why: 'An entry without enough pictures is not shown.',
      title: 'Too few pictures',
      says: 'Only {{count}} of the {{min}} pictures that {{market}} demands.',
    },
    fewerThanAdvised: {
      why: 'Entries with more pictures sell more.',
      level: 'tip',
      title: 'Fewer pictures than advised',
      says: 'Only {{count}} of the {{advised}} pictures that {{market}} advises.',
    },
    tooMany: { title: 'Too many pictures', says: 'There are {{count}} pictures; {{market}} takes {{max}}.' },
    scheme: {
      title: 'Picture links that cannot be read',
      says: 'The picture link {{value}} does not begin with {{schemes:or}}; {{market}} cannot read it.',
    },
    ending: {
      title: 'Pictures of a kind that is not taken',
      says: 'The picture {{value}} is not of a kind that {{market}} takes ({{endings:list}}).',
    },
    spaces: {
      title: 'Picture links with spaces',
      says: 'The picture link {{value}} holds a space; links are written with %20.',
    },
    twice: {
      why: 'Buyers see the same picture twice.',
      level: 'caution',
      title: 'The same picture twice',
      says: 'The picture {{value}} stands twice.',
    },
  },
  prepareRow(category, say) {
    const { pictures, roles } = category.rulebook;
    const key = roles.pictures;
    if ((category.byKey.get(key)?.strongest ?? 'unused') === 'unused') return undefined;
    const begins = pictures.schemes.map((s) => `${s}://`);
    // Before a query or a fragment (RFC 3986, 3).
    const endings = new RegExp(
      `^[^?#]*(?:${pictures.endings.map((e) => e.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})(?:[?#]|$)`,
      'i',
    );
    return (listing, _, out) => {
      const links = toItems(listing.values[key]);
      const count = links.length;
      const fill = [{ kind: 'fill' as const, field: key }];
      if (count > 0 && count < pictures.min) say(out, 'tooFew', key, links, { count, min: pictures.min }, fill);
      else if (count > 0 && count < pictures.advised)
        say(out, 'fewerThanAdvised', key, links, { count, advised: pictures.advised }, fill);
      if (count > pictures.max)
        say(out, 'tooMany', key, links, { count, max: pictures.max }, [
          { kind: 'set', field: key, value: links.slice(0, pictures.max), safe: false },
        ]);
      for (const [i, link] of links.entries()) {
        const put = (mended: string) => links.map((l) => (l === link ? mended : l));
        if (!begins.some((b) => link.startsWith(b)))
          say(
            out,
            'scheme',
            key,
            link,
            { schemes: begins },
            link.startsWith('http://') && begins.includes('https://')
              ? [{ kind: 'set', field: key, value: put(link.replace('http://', 'https://')), safe: false }]
              : fill,
          );
        if (!endings.test(link)) say(out, 'ending', key, link, { endings: pictures.endings }, fill);
        if (link.includes(' '))
          say(out, 'spaces', key, link, {}, [
            { kind: 'set', field: key, value: put(link.trim().replace(/ /g, '%20')), safe: true },
          ]);
        if (links.indexOf(link) !== i)
          say(out, 'twice', key, link, {}, [{ kind: 'set', field: key, value: [...new Set(links)], safe: true }]);
      }
    };
  },
});
