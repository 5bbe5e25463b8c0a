import { expect, it } from 'vitest';
import { NOBODY, saidOf } from '../formats/xapi/studentForm';

it('somebody who waits is put on record with what the source says, and nothing else', () => {
  expect(saidOf({ person: 'mbox:nan@x.example', name: 'Nan van der Nobody' })).toEqual({
    ...NOBODY,
    email: 'nan@x.example',
    given: 'Nan van der',
    family: 'Nobody',
  });
  expect(saidOf({ person: 'account:https://x.example|S9', name: 'Nobody,  Nan  May' })).toEqual({
    ...NOBODY,
    externalId: 'S9',
    given: 'Nan May',
    family: 'Nobody',
  });
  expect(saidOf({ person: 'S9', name: null })).toEqual({ ...NOBODY, externalId: 'S9' });
  expect(saidOf({ person: 'openid:https://nan.example', name: ' ' })).toEqual(NOBODY);
});
