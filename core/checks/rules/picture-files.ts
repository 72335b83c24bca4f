import { judgePicture } from '../../pictures';
import { toItems } from '../../listing/values';
import { defineCheck } from '../define-check';

/** What stands behind the links: a market fetches them, and hides or refuses what it finds wanting. */
export const pictureFiles = defineCheck({
  id: 'picture-files',
  level: 'blocker',
  docs: {
    title: 'Pictures are what the market takes',
    why: 'The market fetches each picture and refuses or hides an entry whose pictures it does not take.',
    source: 'common practice; numbers from the rulebook',
  },
  messages: {
    missing: {
      title: 'Pictures that are not there',
      says: 'Nothing is at {{value}}: its host answers {{status}}.',
    },
    strange: {
      title: 'Links that show no picture',
      says: 'What is at {{value}} is no picture that can be read.',
    },
    small: {
      title: 'Pictures that are too small',
      says: 'The picture {{value}} has {{width}} × {{height}} pixels; {{market}} takes none with an edge under {{least}}.',
    },
    large: {
      title: 'Pictures that are too large',
      says: 'The picture {{value}} has {{width}} × {{height}} pixels; {{market}} takes none with an edge over {{most}}.',
    },
    heavy: {
      title: 'Pictures with too many bytes',
      says: 'The picture {{value}} has {{kilobytes}} kB; {{market}} takes {{most}}.',
    },
    noZoom: {
      level: 'tip',
      why: 'Buyers cannot look closer.',
      title: 'Pictures that cannot be enlarged',
      says: 'The longer edge of {{value}} has {{longer}} pixels; from {{advised}} on buyers can enlarge it.',
    },
    notSquare: {
      level: 'caution',
      why: 'Lists show squares, and cut or shrink what is none.',
      title: 'Pictures that are far from square',
      says: 'The picture {{value}} has {{width}} × {{height}} pixels; {{market}} wants no edge longer than {{ratio}} times the other.',
    },
    notOnWhite: {
      level: 'caution',
      why: 'The first picture stands in lists among others on white.',
      title: 'The first picture is not on white',
      says: 'What is around the item in {{value}}, the first picture, is not white.',
    },
    otherKind: {
      level: 'caution',
      why: 'A market that goes by the ending cannot read it.',
      title: 'Pictures of another kind than their link says',
      says: 'The link {{value}} says {{promised}}, and the picture is {{kind}}.',
    },
  },
  prepareRow(category, say) {
    const { pictures: terms, roles } = category.rulebook;
    const key = roles.pictures;
    if ((category.byKey.get(key)?.strongest ?? 'unused') === 'unused') return undefined;
    const fill = [{ kind: 'fill' as const, field: key }];
    return (listing, { pictures }, out) => {
      if (!pictures) return;
      for (const [i, link] of toItems(listing.values[key]).entries()) {
        const found = pictures.get(link);
        if (found)
          for (const { message, params } of judgePicture(terms, link, found, i === 0))
            // Each message has its own parameters, which the judge gives along with it.
            say(out, message, key, link, params as never, fill);
      }
    };
  },
});
