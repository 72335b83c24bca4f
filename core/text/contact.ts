// Contact details and links in texts that must speak only of the item (common practice; no published source).
// Each search starts from a sign that any match needs (an @, an ending such as .com) and looks a bounded way around it: a
// pattern that may begin anywhere would go over a long text once for every letter of it.

const opening = /\b(?:https?:\/\/|www\.)\S{1,300}/i;
const ending = /\.(?:com|net|org|co\.uk|de|shop|info|example)\b/gi;
const phone = /(?:\+|\b00|\b0)\d[\d ()/-]{7,40}\d/;
/** Longest local part and domain of a mail address (RFC 5321, 4.5.3.1), and longest label of a name (RFC 1035, 2.3.4). */
const localLetters = 64,
  domainLetters = 255,
  labelLetters = 63;

/** A telephone number may be written in pairs, so no run of digits is long; nine signs of one are. */
const mayDial = /\d[\d ()/-]{7}/;

export type ContactKind = 'link' | 'mail' | 'phone';

function findMail(text: string): string | undefined {
  for (let at = text.indexOf('@'); at >= 0; at = text.indexOf('@', at + 1)) {
    const local = /[\p{L}\d._%+-]{1,64}$/u.exec(text.slice(Math.max(0, at - localLetters), at))?.[0];
    const domain = /^[\p{L}\d.-]{1,250}\.\p{L}{2,63}/u.exec(text.slice(at + 1, at + 1 + domainLetters))?.[0];
    if (local && domain) return `${local}@${domain}`;
  }
  return undefined;
}

/** A link has a scheme, or a point with something behind it. */
const mayLink = /\.\S|:\/\//;

function findLink(text: string): string | undefined {
  if (!mayLink.test(text)) return undefined;
  const opened = opening.exec(text);
  for (const m of text.matchAll(ending)) {
    if (opened && opened.index <= m.index) break;
    const label = /[a-z0-9-]{1,63}$/i.exec(text.slice(Math.max(0, m.index - labelLetters), m.index))?.[0];
    if (label) return label + /^\S{0,300}/.exec(text.slice(m.index))![0];
  }
  return opened?.[0];
}

/** First contact detail in a text with its kind, or undefined. Measures and barcodes are not phone numbers. */
export function findContact(text: string): { kind: ContactKind; found: string } | undefined {
  const mail = findMail(text);
  if (mail) return { kind: 'mail', found: mail };
  const link = findLink(text);
  if (link) return { kind: 'link', found: link.replace(/(?<![.,;)])[.,;)]+$/, '') };
  if (mayDial.test(text)) {
    const m = phone.exec(text);
    if (m && m[0].replace(/\D/g, '').length >= 9 && /[ ()/+-]/.test(m[0])) return { kind: 'phone', found: m[0] };
  }
  return undefined;
}
