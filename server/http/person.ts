// Under whose name a request is done.
import { deskName, mostNameLetters, ownName } from '@basileus/contract';

/**
 * The name in the head of a request. It is percent-encoded by browsers; other programs may write Latin letters as they are. Where none
 * is given, the desk signs, and so it does for one who calls himself as the application does.
 */
export function readPerson(head: string | readonly string[] | undefined): string {
  const given = [head ?? ''].flat()[0] ?? '';
  let name = given;
  try {
    name = decodeURIComponent(given);
  } catch {
    /* A percent sign that encodes nothing is part of the name. */
  }
  name = [...name.replace(/[\s\p{Cc}]+/gu, ' ').trim()].slice(0, mostNameLetters).join('');
  return name === '' || name.toLowerCase() === ownName.toLowerCase() ? deskName : name;
}
