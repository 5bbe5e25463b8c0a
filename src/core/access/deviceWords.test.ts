import { expect, it } from 'vitest';
import { deviceWords } from './deviceWords';

// User-Agent strings as browsers send them, from memory.
it.each([
  ['Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:128.0) Gecko/20100101 Firefox/128.0', 'Firefox on Windows'],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0 Safari/537.36 Edg/126.0',
    'Edge on Windows',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.5 Mobile/15E148 Safari/604.1',
    'Safari on iPhone',
  ],
  [
    'Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0 Mobile Safari/537.36',
    'Chrome on Android',
  ],
  ['curl/8.5.0', 'Unknown device'],
  [null, 'Unknown device'],
])('%s', (agent, words) => expect(deviceWords(agent)).toBe(words));
