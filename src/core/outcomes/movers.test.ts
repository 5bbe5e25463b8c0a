import { describe, expect, it } from 'vitest';
import { movers, type OwnActivity } from './movers';

const activity = (id: number, more: Partial<OwnActivity>): OwnActivity => ({
  id,
  title: `A${id}`,
  kind: 'quiz',
  due: null,
  open: true,
  done: false,
  opened: false,
  share: null,
  left: null,
  ...more,
});

describe('what would move an outcome', () => {
  it('is what is due first, then what went badly, then what was not opened, then practice', () => {
    const behind = [
      activity(1, { kind: 'practice', opened: true }),
      activity(2, { kind: 'video' }),
      activity(3, { kind: 'page', opened: true }),
      activity(4, { done: true, share: 0.5, left: 1 }),
      activity(5, { due: 20 }),
      activity(6, { due: 10, kind: 'assignment' }),
    ];
    expect(movers('not yet', behind).map((m) => m.words)).toEqual([
      'hand in A6',
      'hand in A5',
      'try A4 again',
      'watch A2',
      'go on with A1',
    ]);
  });
  it('is nothing of what is closed, used up, or went well; nor of what is secure', () => {
    const behind = [
      activity(1, { open: false }),
      activity(2, { done: true, share: 0.5, left: 0 }),
      activity(3, { done: true, share: 0.9, left: 1 }),
    ];
    expect(movers('not yet', behind)).toEqual([]);
    expect(movers('secure', [activity(1, {})])).toEqual([]);
  });
});
