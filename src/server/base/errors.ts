/** Why a use case said no. `invalid` messages are written for the person who asked. */
export type Refusal =
  'signed out' | 'forbidden' | 'not found' | 'invalid' | 'conflict' | 'too large' | 'too many';

export class UseCaseError extends Error {
  constructor(
    readonly refusal: Refusal,
    message: string,
  ) {
    super(message);
    this.name = 'UseCaseError';
  }
}

export const forbidden = () => new UseCaseError('forbidden', 'You may not see or change this.');
export const notFound = (what: string) => new UseCaseError('not found', `There is no such ${what}.`);
export const tooMany = (message: string) => new UseCaseError('too many', message);
export const invalid = (message: string) => new UseCaseError('invalid', message);
