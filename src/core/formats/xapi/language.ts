const LANGUAGE = '(?:[a-z]{2,3}(?:-[a-z]{3}){0,3}|[a-z]{4}|[a-z]{5,8})';
const SCRIPT = '(?:-[a-z]{4})?';
const REGION = '(?:-(?:[a-z]{2}|\\d{3}))?';
const VARIANT = '(?:-(?:[a-z0-9]{5,8}|\\d[a-z0-9]{3}))*';
const EXTENSION = '(?:-[a-wy-z0-9](?:-[a-z0-9]{2,8})+)*';
const PRIVATE = 'x(?:-[a-z0-9]{1,8})+';
const TAG = new RegExp(
  `^(?:${LANGUAGE}${SCRIPT}${REGION}${VARIANT}${EXTENSION}(?:-${PRIVATE})?|${PRIVATE})$`,
  'i',
);

/** Tags that were registered before there was a grammar (RFC 5646, 2.1: `grandfathered`), those that it does not make. */
const IRREGULAR = new Set(
  (
    'en-gb-oed i-ami i-bnn i-default i-enochian i-hak i-klingon i-lux i-mingo i-navajo i-pwn i-tao i-tay i-tsu ' +
    'sgn-be-fr sgn-be-nl sgn-ch-de art-lojban cel-gaulish no-bok no-nyn zh-guoyu zh-hakka zh-min zh-min-nan zh-xiang'
  ).split(' '),
);
/** No tag is longer: RFC 5646, 4.4.1 asks for 35 characters at least. */
const LONGEST = 200;

/** Whether a text is a well-formed language tag (RFC 5646, 2.1 and 2.2.9); case does not matter. */
export const isLanguageTag = (text: string): boolean =>
  text.length <= LONGEST && (TAG.test(text) || IRREGULAR.has(text.toLowerCase()));
