import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { file, NOW, withSmallCourse } from '../../../tests/support/course';
import type { StudentForm } from '@/core/forms/setup';
import { docOf } from '@/core/messages/doc';
import { courses, enrolments, persons, proposals, recipients, units } from '@/data/schema';
import { sendMessages } from '../act/compose';
import { newCourse, saveUnit } from '../act/course/institution';
import { saveCourse } from '../act/course/parts';
import { saveStudent } from '../act/course/student';
import { joinCourse, setJoinCode, setStatus } from '../act/course/students';
import { setupView } from '../look/setup';
import { importFiles, previewImport } from '../intake/intake';
import { workOff } from '../work';
import { messageView, retryMail } from '../act/messages';
import { openProposals, settleProposal } from './proposals';
import { JOIN_CODES } from './signInTries';
import { acceptCourse } from '../act/course/students';
import { exportTable } from '../export/tables';
import { studentHome } from '../look/student';

const small = withSmallCourse();
const ines = () => small.course.instructor;
const teodor = () => small.course.stranger;
const orm = () => small.test.db.orm;
const person = async (externalId: string) =>
  (await orm().select().from(persons).where(eq(persons.externalId, externalId)))[0]!;
const placeIn = async (viewer: typeof ines, code: string, externalId: string): Promise<StudentForm> =>
  (await setupView(viewer(), code)).students.find((s) => s.externalId === externalId)!;
const waiting = () => openProposals(small.test.db);

describe('who a person is, where courses of others rely on it', () => {
  it('is proposed by who teaches one of their courses, and stays as it is', async () => {
    const bo = await person('s3');
    // Teodor takes Bo into his course; who Bo is belongs to both of them from now on.
    const form = { id: null, externalId: 's3', given: 'Bo', family: 'Li', sectionId: null };
    expect(await saveStudent(teodor(), 'OTHER', { ...form, email: null })).toEqual({
      rows: 0,
      proposed: false,
    });
    // He sees no address that he did not know, wherever it could be read, until Bo accepts.
    const shown = async () => (await placeIn(teodor, 'OTHER', 's3')).email;
    expect(await shown()).toBeNull();
    expect((await exportTable(teodor(), 'OTHER', 'roster', {})).rows.flat()).not.toContain(bo.email);
    const { viewer: boHimself } = await small.course.student('s3');
    expect((await studentHome(boHimself)).courses.find((c) => c.head.code === 'OTHER')).toMatchObject({
      toAccept: true,
    });
    // What is not shown is not taken away either by saving the form.
    const place = await placeIn(teodor, 'OTHER', 's3');
    await saveStudent(teodor(), 'OTHER', { ...place, sectionId: null });
    expect(await person('s3')).toEqual(bo);
    await expect(acceptCourse(boHimself, 'NOWHERE')).rejects.toThrow('no such course');
    await acceptCourse(boHimself, 'OTHER');
    expect(await shown()).toBe(bo.email);
    for (const [viewer, code] of [
      [ines, 'NAV'],
      [teodor, 'OTHER'],
    ] as const) {
      const place = await placeIn(viewer, code, 's3');
      for (const change of [{ email: 'mine@x.example' }, { given: 'Bob' }, { externalId: 's3b' }])
        expect(await saveStudent(viewer(), code, { ...place, ...change })).toEqual({
          rows: 0,
          proposed: true,
        });
    }
    expect(await person('s3')).toEqual(bo);
    // The same again is on the list once.
    expect(await waiting()).toHaveLength(3);
    expect((await waiting()).map((p) => [p.about, p.by])).toContainEqual(['person', 'ines@example.org']);
  });

  it('does not change by adding them with another address either', async () => {
    await newCourse(teodor(), { code: 'RAD', ...(await setupView(teodor(), 'OTHER')).form, title: 'Radio' });
    const before = await person('s4');
    const ida = {
      id: null,
      externalId: 's4',
      given: 'Ida',
      family: 'Wren',
      email: 'ida@mine.example',
      sectionId: null,
    };
    expect(await saveStudent(teodor(), 'RAD', ida)).toMatchObject({ proposed: true });
    expect(await person('s4')).toEqual(before);
    expect((await placeIn(teodor, 'RAD', 's4')).email).toBeNull();
  });

  it('is refused to a roster, which says why', async () => {
    const roster = file('roster.csv', 'student_id,given_name,family_name,email\ns3,Bo,Li,mine@x.example\n');
    const { files } = await previewImport(ines(), 'NAV', [roster]);
    expect(files[0]!.rejected).toMatchObject([
      { line: 2, reason: expect.stringMatching(/another name or address/) as string },
    ]);
    const done = await importFiles(
      small.test.db,
      small.course.courseId,
      ines().userId,
      [roster],
      Date.parse(NOW),
    );
    expect(done).toMatchObject([{ changed: 0, rejected: 1 }]);
  });

  it('is not changed by another try of a message; the copy goes to where it was sent', async () => {
    const { enrolmentId } = await small.course.student('s3');
    const { messageId: id } = await sendMessages(ines(), 'NAV', [
      {
        key: '11111111-1111-4111-8111-111111111111',
        subject: 'Hello',
        doc: docOf('Come and see me.'),
        reason: 'a test',
        about: 'other' as const,
        activityId: null,
        recipients: [{ enrolmentId, plan: null }],
      },
    ]);
    await workOff(small.test.db);
    const { copies } = await messageView(ines(), 'NAV', id);
    expect(await retryMail(ines(), 'NAV', copies[0]!.recipientId, 'bo@new.example')).toBe(true);
    await workOff(small.test.db);
    expect((await person('s3')).email).toBe('bo@students.example');
    const [copy] = await orm().select().from(recipients).where(eq(recipients.id, copies[0]!.recipientId));
    expect(copy!.email).toBe('bo@new.example');
  });

  it('changes once it is settled, in every course; what was refused stays as it is', async () => {
    const revs = async () => orm().select({ code: courses.code, rev: courses.setupRev }).from(courses);
    const before = await revs();
    const all = await waiting();
    const address = all.find((p) => 'email' in p.after && p.after.email === 'mine@x.example')!;
    const name = all.find((p) => 'given' in p.after && p.after.given === 'Bob')!;
    await settleProposal(small.test.db, name.id, true);
    // Each proposal changes what it was about, and nothing that was settled meanwhile.
    await settleProposal(small.test.db, address.id, true);
    expect(await person('s3')).toMatchObject({ given: 'Bob', family: 'Li', email: 'mine@x.example' });
    const after = await revs();
    for (const code of ['NAV', 'OTHER'])
      expect(after.find((c) => c.code === code)!.rev).toBeGreaterThan(
        before.find((c) => c.code === code)!.rev,
      );
    for (const { id } of (await waiting()).filter((p) => p.about === 'person'))
      await settleProposal(small.test.db, id, false);
    expect(await person('s3')).toMatchObject({ externalId: 's3', email: 'mine@x.example' });
    expect(await waiting()).toEqual([]);
    await expect(settleProposal(small.test.db, name.id, true)).rejects.toThrow('no such proposal');
    expect((await orm().select().from(proposals)).every((p) => p.settledAt != null)).toBe(true);
  });

  it('is changed at once by who alone teaches them', async () => {
    const place = await placeIn(ines, 'NAV', 's1');
    expect(await saveStudent(ines(), 'NAV', { ...place, email: 'l@new.example' })).toMatchObject({
      proposed: false,
    });
    expect((await person('s1')).email).toBe('l@new.example');
  });
});

describe('a unit to which courses of others belong', () => {
  it('is proposed another name or place, wherever below it they are', async () => {
    const top = (await saveUnit(ines(), { id: null, name: 'Institute', parentId: null })).id;
    const low = (await saveUnit(teodor(), { id: null, name: 'Seamanship', parentId: top })).id;
    const { form } = await setupView(teodor(), 'OTHER');
    await saveCourse(teodor(), 'OTHER', { ...form, unitId: low });
    for (const id of [top, low])
      expect(await saveUnit(ines(), { id, name: 'Mine', parentId: null })).toEqual({ id, proposed: true });
    expect((await orm().select().from(units)).map((u) => u.name)).toEqual(['Institute', 'Seamanship']);
    expect(await saveUnit(teodor(), { id: low, name: 'Ships', parentId: top })).toEqual({
      id: low,
      proposed: false,
    });
    for (const { id } of await waiting()) await settleProposal(small.test.db, id, true);
    expect((await orm().select().from(units)).map((u) => u.name).sort()).toEqual(['Mine', 'Mine']);
  });
});

describe('joining by a code', () => {
  it('is not for who was withdrawn, and not for guessing', async () => {
    const { viewer, enrolmentId } = await small.course.student('s1');
    const code = (await setJoinCode(ines(), 'NAV', true))!;
    expect(await joinCourse(viewer, code)).toBe('Navigation');
    await setStatus(ines(), 'NAV', [enrolmentId], 'withdrawn');
    await expect(joinCourse(viewer, code)).rejects.toThrow('Your place in this course was closed');
    const [place] = await orm().select().from(enrolments).where(eq(enrolments.id, enrolmentId));
    expect(place!.status).toBe('withdrawn');
    const { viewer: other } = await small.course.student('s2');
    for (let i = 0; i < JOIN_CODES.free; i++)
      await expect(joinCourse(other, `GUESS${i}`)).rejects.toThrow('No course has this code');
    await expect(joinCourse(other, code)).rejects.toThrow(/Too many codes tried; wait \d+ second/);
  });
});
