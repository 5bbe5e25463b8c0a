import fc from 'fast-check';
import ICAL from 'ical.js';
import nodeIcal from 'node-ical';
import { describe, expect, it } from 'vitest';
import { MINUTE_MS } from '../units';
import { talkCalendar, type CalendarTalk } from './talkCalendar';

const talk: CalendarTalk = {
  uid: 'talk-7f3c@ready-lantern.example',
  sequence: 2,
  startsAt: Date.UTC(2026, 11, 1, 13, 0),
  endsAt: Date.UTC(2026, 11, 1, 13, 20),
  title: 'Talk with Ines Calloway (NAV-201)',
  place: 'Room 2.14; or by phone, 555 0104',
  changedAt: Date.UTC(2026, 10, 25, 10, 35),
  organizer: { name: 'Ines Calloway', email: 'ines.calloway@saltmarsh.example' },
  attendee: { name: 'Tomasz Okonedo-Lind', email: 'tomasz@students.saltmarsh.example' },
  cancelled: false,
};

/** The one event, read by ical.js, an independent reader of RFC 5545. */
function read(text: string) {
  const calendar = new ICAL.Component(ICAL.parse(text));
  const [event, ...more] = calendar.getAllSubcomponents('vevent');
  expect(more).toEqual([]);
  const value = (name: string) => event!.getFirstPropertyValue(name);
  return { calendar, event: event!, value };
}

describe('the calendar file of a talk', () => {
  it('is read by ical.js as it was meant', () => {
    const { calendar, event, value } = read(talkCalendar(talk));
    expect(calendar.getFirstPropertyValue('version')).toBe('2.0');
    expect(calendar.getFirstPropertyValue('method')).toBe('REQUEST');
    expect(value('uid')).toBe(talk.uid);
    expect(value('sequence')).toBe(2);
    expect(value('summary')).toBe(talk.title);
    expect(value('location')).toBe(talk.place);
    expect(value('status')).toBe('CONFIRMED');
    // A scheme is the same in capitals (RFC 3986, 3.1).
    const address = (name: string) => String(value(name)).replace(/^MAILTO:/, 'mailto:');
    expect(address('organizer')).toBe('mailto:ines.calloway@saltmarsh.example');
    expect(address('attendee')).toBe('mailto:tomasz@students.saltmarsh.example');
    expect(event.getFirstProperty('attendee')!.getFirstParameter('cn')).toBe('Tomasz Okonedo-Lind');
    const at = (name: string) => (value(name) as ICAL.Time).toJSDate().getTime();
    expect([at('dtstart'), at('dtend'), at('dtstamp')]).toEqual([talk.startsAt, talk.endsAt, talk.changedAt]);
    const alarm = event.getFirstSubcomponent('valarm')!;
    expect(String(alarm.getFirstPropertyValue('trigger'))).toBe('-PT30M');
  });

  it('is read by node-ical the same', () => {
    const events = Object.values(nodeIcal.sync.parseICS(talkCalendar(talk))).filter(
      (e) => e?.type === 'VEVENT',
    );
    expect(events).toHaveLength(1);
    expect(events[0]).toMatchObject({
      uid: talk.uid,
      summary: talk.title,
      location: talk.place,
      method: 'REQUEST',
    });
    const [event] = events as { start: Date; end: Date }[];
    expect([event!.start.getTime(), event!.end.getTime()]).toEqual([talk.startsAt, talk.endsAt]);
  });

  it('cancels with the same UID, a higher SEQUENCE and METHOD:CANCEL (RFC 5546, 3.2.5)', () => {
    const { calendar, event, value } = read(talkCalendar({ ...talk, sequence: 3, cancelled: true }));
    expect(calendar.getFirstPropertyValue('method')).toBe('CANCEL');
    expect([value('uid'), value('sequence'), value('status')]).toEqual([talk.uid, 3, 'CANCELLED']);
    expect(event.getFirstSubcomponent('valarm')).toBeNull();
  });

  it('is published to the organizer, without anybody to answer (RFC 5546, 3.2.1)', () => {
    const { calendar, value } = read(talkCalendar({ ...talk, attendee: null, cancelled: true }));
    expect(calendar.getFirstPropertyValue('method')).toBe('PUBLISH');
    expect([value('attendee'), value('status')]).toEqual([null, 'CANCELLED']);
  });

  it('holds whatever a title, a place and a name hold, and each line ends with CR LF', () => {
    const line = fc.string({ unit: 'grapheme', maxLength: 120 });
    fc.assert(
      fc.property(line, line, line, fc.integer({ min: 1, max: 500 }), (title, place, name, minutes) => {
        const text = talkCalendar({
          ...talk,
          title: `T ${title}`,
          place: `P ${place}`,
          endsAt: talk.startsAt + minutes * MINUTE_MS,
          attendee: { name: `N ${name}`, email: 'a@x.example' },
        });
        expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
        const { event, value } = read(text);
        const kept = (said: string) =>
          [...said]
            .filter((c) => c >= ' ' && c !== '\u007f')
            .join('')
            .trim();
        expect(value('summary')).toBe(kept(`T ${title}`));
        expect(value('location')).toBe(kept(`P ${place}`));
        expect(event.getFirstProperty('attendee')!.getFirstParameter('cn')).toBe(
          kept(`N ${name}`).replaceAll('"', '’'),
        );
        expect((value('dtend') as ICAL.Time).toJSDate().getTime()).toBe(talk.startsAt + minutes * MINUTE_MS);
      }),
    );
  });
});
