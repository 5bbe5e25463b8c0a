/** Letters without their marks, in small ones: what somebody types or a source says is found whatever keyboard it was. */
export const plainText = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** The words of a text in plain letters; whatever is no letter and no digit parts them. */
export const plainWords = (text: string): string[] =>
  plainText(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
