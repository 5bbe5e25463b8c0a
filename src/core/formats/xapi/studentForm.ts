import { partOfName } from '../../course/personName';
import { idAndAddress } from './person';
import type { WaitingPerson } from '../../views/live';
import type { StudentForm } from '../../forms/setup';

/** A student of whom nothing is on record yet. */
export const NOBODY: StudentForm = {
  id: null,
  externalId: '',
  given: '',
  family: '',
  email: null,
  sectionId: null,
};

/** What a source says of somebody who waits, for whoever puts them on record; what it does not say is empty. */
export function saidOf({ person, name }: Pick<WaitingPerson, 'person' | 'name'>): StudentForm {
  const { id, email } = idAndAddress(person);
  return {
    ...NOBODY,
    externalId: id ?? '',
    email,
    given: partOfName(name ?? '', 'given'),
    family: partOfName(name ?? '', 'family'),
  };
}
