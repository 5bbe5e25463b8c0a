import { describe, expect, it } from 'vitest';
import { wordStart } from './wordStart';

describe('finding by the starts of words', () => {
  it.each([
    ['Tidal heights quiz', 'tidal', 1],
    ['Tidal heights quiz', 'heights', 0.5],
    ['Tidal heights quiz', 'quiz tid', 1],
    ['Tidal heights quiz', 'idal', 0],
    ['Estuary passage plan', 'tidal', 0],
    ['Łucja Wójcik-Sienkiewicz', 'sien', 1 / 3],
    ['Hernández-Nakamura, Joaquín', 'hernandez', 1],
    ['anything', '', 1],
  ])('%s by “%s”', (text, typed, found) => expect(wordStart(text, typed)).toBeCloseTo(found, 12));
});
