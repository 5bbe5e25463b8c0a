/** Characters that the code of a course has at most: it is part of addresses and of names of files. */
export const LONGEST_CODE = 20;

const PLAIN = new RegExp(`^[A-Za-z0-9][A-Za-z0-9-]{0,${LONGEST_CODE - 1}}$`);

/** Says what the code of a course may be, for whoever chose another. */
export const CODE_RULE = `The code takes letters, digits and hyphens, at most ${LONGEST_CODE}, and begins with no hyphen.`;

/** Whether a text can be the code of a course. */
export const isCourseCode = (text: string): boolean => PLAIN.test(text);

/**
 * The code nearest to a text that another system knows a course by: accents go, what is neither letter nor digit becomes
 * a hyphen. Always one that `isCourseCode` takes.
 */
export function courseCodeFrom(text: string): string {
  const plain = text
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+/, '')
    .slice(0, LONGEST_CODE)
    .replace(/-+$/, '');
  return plain || 'course';
}

/** The first of a code, the code with -2, the code with -3 … that is not taken, none of them too long. */
export function freeCode(code: string, taken: ReadonlySet<string>): string {
  let free = code;
  for (let n = 2; taken.has(free); n++) free = `${code.slice(0, LONGEST_CODE - `-${n}`.length)}-${n}`;
  return free;
}
