// Contact details and links in texts that must speak only of the item (common practice; no published source).
// Each search first looks for the signs that any match needs, so that clean texts cost almost nothing.

const link = /\b(?:https?:\/\/|www\.)\S+|\b[a-z0-9-]+\.(?:com|net|org|co\.uk|de|shop|info|example)\b\S*/i;
const mail = /[\p{L}\d._%+-]+@[\p{L}\d.-]+\.\p{L}{2,}/u;
const phone = /(?:\+|\b00|\b0)\d[\d ()/-]{7,}\d/;

const mayLink = /:\/\/|www\.|\.(?:com|net|org|co\.uk|de|shop|info|example)\b/i;
/** A telephone number may be written in pairs, so no run of digits is long; nine signs of one are. */
const mayDial = /\d[\d ()/-]{7}/;

export type ContactKind = 'link' | 'mail' | 'phone';

/** First contact detail in a text with its kind, or undefined. Measures and barcodes are not phone numbers. */
export function findContact(text: string): { kind: ContactKind; found: string } | undefined {
  if (text.includes('@')) {
    const m = mail.exec(text);
    if (m) return { kind: 'mail', found: m[0] };
  }
  if (mayLink.test(text)) {
    const m = link.exec(text);
    if (m) return { kind: 'link', found: m[0].replace(/[.,;)]+$/, '') };
  }
  if (mayDial.test(text)) {
    const m = phone.exec(text);
    if (m && m[0].replace(/\D/g, '').length >= 9 && /[ ()/+-]/.test(m[0])) return { kind: 'phone', found: m[0] };
  }
  return undefined;
}
