/** A part of a class: a section (`s` and its id), or a monitoring group (`m` and its id). */
export type PartOfClass = `s${number}` | `m${number}`;

export const isPart = (text: unknown): text is PartOfClass =>
  typeof text === 'string' && /^[sm]\d{1,9}$/.test(text);
