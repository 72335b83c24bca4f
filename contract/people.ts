// Who works here. A name signs what is done, so that colleagues know whom to ask; it locks nothing.
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { idParam, nothing, ok } from './shapes';

/** Signs what is done by whoever has chosen no name. */
export const deskName = 'Catalog desk';
/** Signs what the application does by itself; nobody is called so. */
export const ownName = 'Basileus';
/** The head of a request that holds the name of the person, percent-encoded: heads know no letters but Latin ones. */
export const personHead = 'X-Person';
export const mostNameLetters = 80;

const name = z
  .string()
  .transform((t) => t.trim().replace(/\s+/g, ' '))
  .pipe(z.string().min(1).max(mostNameLetters));

export const person = z.object({
  id: z.number(),
  name: z.string(),
  /** False for one who has left; what that person did stays signed. */
  isHere: z.boolean(),
  /** When the last thing was done under the name; null where none was. */
  last: z.string().nullable(),
});
export type Person = z.output<typeof person>;

export const listPeople = defineEndpoint({
  id: 'listPeople',
  method: 'get',
  path: '/people',
  about: 'Who works here, and who has left.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(person) }),
});
export const addPerson = defineEndpoint({
  id: 'addPerson',
  method: 'post',
  path: '/people',
  about: 'Adds a person by name; one who has left is here again.',
  params: nothing,
  query: nothing,
  body: z.strictObject({ name }),
  response: person,
});
export const removePerson = defineEndpoint({
  id: 'removePerson',
  method: 'delete',
  path: '/people/:id',
  about:
    'A person is offered as a name no more. One who has done nothing is forgotten; of others the name stays where it stands.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: ok,
});
