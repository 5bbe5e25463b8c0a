import { describe, expect, it } from 'vitest';
import type { Measure, Subject } from './measure';
import { MEASURES } from './registry';

const all: [string, Measure][] = Object.entries(MEASURES);
/** Somebody of whom the course knows everything: what a measure needs besides is what it is asked for. */
const known: Subject = {
  id: 1,
  measured: {
    activityKnown: true,
    rhythm: {
      activeDays: 30,
      lastSeen: '2026-11-24',
      daysSince: 1,
      silence: 3,
      usualGap: 2,
      longestGap: 4,
      lastGap: 2,
      silenceQuantile: 0.5,
      weekdaySpread: 0.8,
    },
    recentTime: { minutes: 90, classMedian: 60, whole: true },
    effortTime: { minutes: 90, classMedian: 60, whole: true },
    effortBand: { low: 70, high: 85, mark: 65 },
    completion: { done: 3, expected: 4, missing: ['w'], pace: -1, undated: 0 },
    standing: { standing: 64.4, lowestPossible: 40, highestPossible: 90 },
    gradedWorks: 5,
    standingBefore: 70,
    standingRank: 0.25,
    gain: 4.2,
    trend: { n: 5, perWeek: -1, relativePerWeek: -2, test: { s: -8, varS: 16, tauB: -0.8, p: 0.03 } },
  },
  time: () => ({ minutes: 90, classMedian: 60, whole: true }),
  figures: () => ({
    days: 4,
    seconds: 5400,
    inClassSeconds: 1800,
    views: 20,
    contributions: 6,
    at10: 0,
    at30: 0,
    at60: 0,
  }),
  present: () => ({ first: 1, last: 2 }),
  openedOnly: () => 1,
  goal: { of: 4, secure: 1, pace: 1.5, newly: 0.5 },
  flag: () => 'watch',
};
const span = { from: '2026-11-19', to: '2026-11-25' };
const asked = { days: 14, window: { ...span, before: span }, flag: 'behind' };

describe('every measure', () => {
  it.each(all)('%s is known of whom everything is known, and says so in words', (_, m) => {
    const value = m.value(known, asked);
    expect(value).not.toBeNull();
    expect(m.words(value!)).toMatch(/\S/);
    expect(m.words(value!)).not.toMatch(/NaN|null|undefined/);
  });
  it.each(all)('%s is not known of whom nothing is, and says why', (_, m) => {
    expect(m.value({ id: 1, measured: null }, asked)).toBeNull();
    expect(m.unknown).toMatch(/\S/);
    expect(m.means).toMatch(/\.$/);
  });
  it.each(all)('%s says what it has to be asked for', (_, m) => {
    const needs = (['days', 'window', 'flag'] as const).filter((need) => {
      const { [need]: _left, ...rest } = asked;
      return m.value(known, rest) == null;
    });
    expect(m.needs.filter((need) => need !== 'class')).toEqual(needs);
  });
});

describe('figures by hand', () => {
  it('are what their definitions say', () => {
    const value = (key: keyof typeof MEASURES) => (MEASURES[key] as Measure).value(known, asked);
    expect({
      minutes: value('minutes'),
      inClass: value('inClass'),
      outside: value('outside'),
      completion: value('completion'),
      timeToClass: value('timeToClass'),
      silenceToUsual: value('silenceToUsual'),
      flag: value('flag'),
    }).toEqual({
      minutes: 90,
      inClass: 30,
      outside: 60,
      completion: 75,
      timeToClass: 150,
      silenceToUsual: 1.5,
      flag: 1,
    });
  });
});
