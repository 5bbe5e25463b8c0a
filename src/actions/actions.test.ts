import { part } from '@/core/forms/rules';
import { docOf } from '@/core/messages/doc';
import { randomUUID } from 'node:crypto';
import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import * as yup from 'yup';
import { desc, eq, isNotNull, sql } from 'drizzle-orm';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { file, NOW, withSmallCourse } from '../../tests/support/course';
import { odd, placesIn, withValue } from '../../tests/support/odd';
import { cookieOf, signIn } from '../../tests/support/session';
import { runs } from '../../tests/support/runs';
import {
  acts,
  agreements,
  checkIns,
  feedFiles,
  imports,
  itemChanges,
  itemQuestions,
  mappings,
  occasions,
  planSteps,
  plans,
  recipients,
  session,
  talks,
} from '@/data/schema';
import { setupView } from '@/server/look/setup';
import { importFiles, previewImport } from '@/server/intake/intake';
import { workOff } from '@/server/work';
import { newDesign } from '@/core/plans/edit';
import { USUAL_BANDS } from '@/core/gradebook/bands';
import { DEFAULT_GUARDS } from '@/core/unasked/guards';
import { RULE_STARTERS, usualNumbers } from '@/core/unasked/starters';
import { courseSettings } from '@/server/act/settings';
import { saveRule } from '@/server/unasked/manage';
import { RIGHT_ASKED } from '@/server/access/viewer';
import { rightsTable } from '../../tests/support/rights';
import { WITHOUT_VERSION } from '../../tests/support/versions';
import { named, type Outcome } from './run';
import * as accountActions from './account';
import * as audiences from './audiences';
import * as course from './course';
import * as feedActions from './feeds';
import * as followUps from './followUps';
import * as grading from './grading';
import * as itemActions from './items';
import * as messages from './messages';
import * as notes from './notes';
import * as outcomeActions from './outcomes';
import * as planActions from './plans';
import * as rounds from './rounds';
import * as ruleActions from './rules';
import * as send from './send';
import * as setup from './setup';
import * as student from './student';
import * as talkActions from './talks';
import * as tray from './tray';
import * as views from './views';

/** What the framework hands to an action besides its input: the headers of its request. */
const asking = vi.hoisted(() => ({ cookie: '' }));
vi.mock('next/headers', () => ({
  headers: () => Promise.resolve(new Headers({ cookie: asking.cookie, host: 'lantern.test' })),
}));
vi.mock('next/cache', () => ({ revalidatePath: () => undefined }));

const small = withSmallCourse();
const me = () => small.course.instructor;
const code = 'NAV';
const cookies = { nobody: '', instructor: '', stranger: '', student: '' };
type Asker = keyof typeof cookies;

type Action = (input: unknown) => Promise<Outcome<unknown>>;
/** What comes over the wire has no type: the actions are called as a browser's request calls them. */
const ACTIONS = Object.fromEntries(
  [
    accountActions,
    audiences,
    course,
    feedActions,
    followUps,
    grading,
    itemActions,
    messages,
    notes,
    outcomeActions,
    planActions,
    rounds,
    ruleActions,
    send,
    setup,
    student,
    talkActions,
    tray,
    views,
  ].flatMap((module) => Object.entries(module as Record<string, unknown>)),
) as Record<string, Action>;

async function act(name: string, asker: Asker, input: unknown): Promise<Outcome<unknown>> {
  asking.cookie = cookies[asker];
  return ACTIONS[name]!(input);
}

async function done<T = unknown>(name: string, input: unknown): Promise<T> {
  const outcome = await act(name, 'instructor', input);
  if (!outcome.ok) throw new Error(`${name}: ${outcome.message}`);
  return outcome.value as T;
}

interface Case {
  readonly input: Readonly<Record<string, unknown>>;
  /** Who may; whoever teaches the course if not said. */
  readonly by?: 'student' | 'any instructor' | 'anyone';
}

/** An input of each action that is right, by name. */
let cases: Record<string, Case> = {};

beforeAll(async () => {
  cookies.instructor = cookieOf(await signIn('ines@example.org'));
  cookies.stranger = cookieOf(await signIn('teodor@example.org'));
  const { enrolmentId: s1 } = await small.course.student('s1');
  const { enrolmentId: s3 } = await small.course.student('s3');
  const { enrolmentId: s4 } = await small.course.student('s4');
  cookies.student = cookieOf(await signIn('s1@accounts.example'));
  const { db } = small.test;
  const view = await setupView(me(), code);
  const work = (title: string) => view.activities.find((a) => a.title === title)!;
  const [w1, final] = [work('Chart exercise 1'), work('Final quiz')];
  const { form } = view;
  const fresh = { ...form, title: 'Radio', unitId: undefined, missing: undefined };

  const stage = async (...files: ReturnType<typeof file>[]) => (await previewImport(me(), code, files)).id!;
  const log = (id: string, who = 's1') =>
    file(
      'events.csv',
      `event_id,student_id,at,kind,activity_id,duration_s\n${id},${who},2026-10-20T10:00:00Z,view,r1,\n`,
    );
  const [staged, pack, foreign] = [
    await stage(log('a1')),
    await stage({
      name: 'pack.zip',
      bytes: zipSync(Object.fromEntries(Object.entries(PACKAGE).map(([n, t]) => [n, strToU8(t)]))),
    }),
    await stage(file('marks.csv', 'learner,mark one\ns1,12\n')),
  ];
  for (const late of [log('a2'), log('a3', 'xx')])
    await importFiles(db, small.course.courseId, me().userId, [late], Date.parse(NOW));
  const all = await db.orm.select({ id: imports.id }).from(imports).orderBy(desc(imports.id));
  const quizItems = [
    'activity_id,item_id,key,options',
    ...['i1', 'i2', 'i3'].map((item) => `q1,${item},A,A=ebb|B=flood`),
  ];
  const answers = [
    'student_id,activity_id,item_id,answer,score',
    ...['s1', 's3'].flatMap((who) => ['i1', 'i2', 'i3'].map((item) => `${who},q1,${item},B,0`)),
  ];
  for (const [name, lines] of [
    ['items.csv', quizItems],
    ['responses.csv', answers],
  ] as const)
    await importFiles(
      db,
      small.course.courseId,
      me().userId,
      [file(name, lines.join('\n'))],
      Date.parse(NOW),
    );
  const q1 = { id: work('Tides quiz').id! };

  await done('newCourseAction', { ...fresh, code: 'RAD-1' });
  const joinCode = await done<string>('joinCodeAction', { code: 'RAD-1', on: true });
  const { id: unit } = await done<{ id: number }>('saveUnitAction', {
    id: null,
    name: 'Institute',
    parentId: null,
    was: null,
  });
  const group = { id: null, name: 'Watch', memberIds: [s1], staffIds: [me().userId] };
  await done('saveGroupAction', { code, form: group, was: null });
  await done('saveGroupAction', { code, form: { ...group, name: 'Yellow' }, was: null });
  const note = await done<number>('addNoteAction', {
    code,
    student: s1,
    kind: 'talk',
    on: '2026-10-27',
    text: 'A talk',
    followUpOn: null,
  });
  const mark = await done<number>('markSeenAction', { code, student: s3, reason: 'seen in class' });
  await done('createKeyAction', { code, label: 'Platform' });
  const made = await setupView(me(), code);
  const [watch, spareGroup] = [made.groups[0]!, made.groups[1]!];
  const learner = made.students.find((s) => s.id === s3)!;
  const seen = (points: number | null) => ({ points, excused: false });
  const cell = { enrolmentId: s1, activityId: w1.id, seen: seen(17) };
  const { batch } = await done<{ batch: string }>('gradeAction', {
    code,
    pasted: false,
    cells: [{ ...cell, enrolmentId: s3, seen: seen(15), points: 16 }],
  });
  const step = { activityId: w1.id, title: 'Again', minutes: 20, on: '2026-10-30', why: '' };
  const message = (enrolmentId: number) => ({
    code,
    messages: [
      {
        key: randomUUID(),
        subject: 'How are you?',
        doc: docOf('Write me a line.'),
        reason: '',
        about: 'other',
        activityId: null,
        recipients: [{ enrolmentId, plan: [step] }],
      },
    ],
  });
  await done('sendAction', message(s1));
  // Mail goes out by itself: what is stored stands still only once it has.
  await workOff(small.test.db);
  const [copy] = await db.orm.select().from(recipients);
  const [planned] = await db.orm.select().from(planSteps);
  await db.orm.insert(mappings).values({
    courseId: small.course.courseId,
    userId: me().userId,
    name: 'Marks',
    mapping: MAPPING,
    createdAt: new Date(),
  });
  const [mapping] = await db.orm.select().from(mappings);
  const { messageId: waits } = await done<{ messageId: number }>('sendAction', {
    ...message(s3),
    at: Date.parse(NOW) + 86_400_000,
  });
  const template = { code, id: null, name: 'Come by', shared: false, about: 'other', subject: 'A word' };
  const kept = await done<number>('saveTemplateAction', { ...template, doc: docOf('Come by.'), was: null });
  const audience = { code, id: null, name: 'Everybody', where: { all: [] }, added: [], removed: [] };
  const saved = await done<number>('saveAudienceAction', { ...audience, was: null });

  const times = {
    id: null,
    repeat: 'weekly',
    firstOn: '2026-10-29',
    lastOn: '2026-11-26',
    from: 840,
    until: 900,
    minutes: 20,
    place: 'Room 2',
    seats: 2,
    open: true,
    except: [],
  };
  const given = await done<number>('saveTimesAction', { code, times, was: null });
  const old = await done<number>('saveTimesAction', {
    code,
    times: { ...times, from: 600, until: 660 },
    was: null,
  });
  const begins = new Date('2026-11-05T14:00:00Z');
  const [talk] = await db.orm
    .insert(talks)
    .values({
      courseId: small.course.courseId,
      enrolmentId: s3,
      userId: me().userId,
      uid: 'talk-1@example.org',
      startsAt: begins,
      endsAt: new Date(begins.getTime() + 1_200_000),
      place: 'Room 2',
      seat: 1,
      changedAt: begins,
      createdAt: begins,
    })
    .returning();
  const agreed = { goal: 'Catch up', step: 'Exercise 3', on: '2026-11-05', said: '' };
  const talkNote = { code, student: s3, talk: talk!.id, note: { on: '2026-10-28', text: 'A talk', agreed } };
  await done('talkNoteAction', talkNote);
  const [agreement] = await db.orm.select().from(agreements);
  const [dueAct] = await db.orm.select().from(acts).where(isNotNull(acts.followUpOn));
  const help = { code, helped: s1, helper: s3, topic: 'heights', until: '2026-11-11' };
  const asked = await done<number>('askForHelpAction', help);
  const ended = await done<number>('askForHelpAction', { ...help, helper: s4 });
  const closed = await done<number>('askForHelpAction', { ...help, helped: s4, helper: s3 });
  const [said] = await db.orm
    .insert(checkIns)
    .values({
      courseId: small.course.courseId,
      enrolmentId: s1,
      how: 'well',
      inTheWay: [],
      word: '',
      at: new Date('2026-10-20T12:00:00Z'),
    })
    .returning();
  await workOff(small.test.db);

  const ruleOf = (starter: string) => {
    const { name, make } = RULE_STARTERS[starter]!;
    const numbers = usualNumbers(starter);
    return { id: null, name, starter, numbers, parts: make(numbers) };
  };
  const praise = await saveRule(me(), code, ruleOf('praise'));
  const over = await saveRule(me(), code, ruleOf('improved'));
  const edited = await saveRule(me(), code, ruleOf('not seen'));
  const occasion = async (key: string, state: 'waiting' | 'word') =>
    (
      await db.orm
        .insert(occasions)
        .values({
          ruleId: praise,
          courseId: small.course.courseId,
          enrolmentId: s3,
          key,
          at: new Date(NOW),
          facts: [],
          state,
        })
        .returning()
    )[0]!.id;
  const feedForm = { id: null, name: 'Export', kind: 'folder', link: '', days: 'daily', minute: 360 };
  const feed = await done<number>('saveFeedAction', { code, form: feedForm, was: null });
  const spare = await done<number>('saveFeedAction', { code, form: feedForm, was: null });
  const halted = async (id: string) =>
    (
      await db.orm
        .insert(feedFiles)
        .values({
          feedId: feed,
          uploadId: await stage(log(id)),
          name: 'events.csv',
          hash: id,
          at: new Date(NOW),
          state: 'unlike',
          reasons: [],
        })
        .returning()
    )[0]!.id;
  const change = (item: string) => ({ activityId: q1.id, item, keys: ['B'], treatment: 'scored', rev: 0 });
  await done('changeItemAction', { code, change: change('i1') });
  const [keyChange] = await db.orm.select().from(itemChanges);
  await db.orm
    .insert(itemQuestions)
    .values({ enrolmentId: s3, activityId: q1.id, item: 'i2', at: new Date(NOW) });
  // One step that nothing ticks by itself.
  const [open] = await db.orm
    .insert(plans)
    .values({ enrolmentId: s1, userId: me().userId, createdAt: new Date(NOW) })
    .returning();
  await db.orm.insert(planSteps).values({
    planId: open!.id,
    position: 0,
    title: 'Come by',
    minutes: 10,
    on: '2026-10-28',
    why: '',
  });
  const [fix] = view.outcomes;
  const goal = { outcomes: [fix!.id!], by: '2026-12-01', student: null };
  const goalToGo = await done<number>('addGoalAction', { code, form: goal });
  const text = (id: string) => ({
    id,
    kind: 'text' as const,
    activityId: null,
    outcomeId: null,
    title: 'Go over it',
    minutes: 15,
    set: 'a' as const,
    lesson: null,
  });
  const blank = newDesign('After the quiz', q1.id);
  const design = {
    ...blank,
    branch: { ...blank.branch!, lanes: blank.branch!.lanes.map((l) => ({ ...l, steps: [text('one')] })) },
  };
  const [live, ready, gone] = [
    await done<number>('saveDesignAction', {
      code,
      id: null,
      design: { ...design, handOut: 'released' },
      was: null,
    }),
    await done<number>('saveDesignAction', { code, id: null, design, was: null }),
    await done<number>('saveDesignAction', { code, id: null, design, was: null }),
  ];
  await done('switchDesignAction', { code, id: live, state: 'on' });
  const give = {
    target: null,
    students: [s3, s4],
    activities: [final.id!],
    opensAt: null,
    dueAt: Date.parse(NOW) + 86_400_000,
    closesAt: null,
    onlyTheirs: false,
    again: true,
  };
  const { batch: assigned } = await done<{ batch: number }>('giveAction', { code, form: give });
  const { target, activities: what } = give;
  const toRemove = { target, students: [s3], activities: what };
  const [pinned] = await db.orm.select().from(planSteps).orderBy(desc(planSteps.id));
  await workOff(small.test.db);
  await signIn('ines@example.org');
  const [other] = await db.orm
    .select({ id: session.id })
    .from(session)
    .where(eq(session.userId, me().userId))
    .orderBy(desc(session.createdAt))
    .limit(1);
  cases = {
    saveDesignAction: { input: { code, id: ready, design, was: design } },
    keyShownAction: { input: { code, activityId: q1.id, shown: 'now' } },
    switchDesignAction: { input: { code, id: ready, state: 'on' } },
    releaseDesignAction: { input: { code, id: live } },
    removeDesignAction: { input: { code, id: gone } },
    tryDesignAction: { input: { code, design, percent: 60, mark: null } },
    keepStepDayAction: { input: { code, step: pinned!.id, on: '2026-10-30' } },
    giveChoicesAction: { input: { code } },
    previewGiveAction: { input: { code, form: give } },
    giveAction: { input: { code, form: { ...give, students: [s1], activities: [w1.id!] } } },
    removeGivenAction: { input: { code, form: toRemove } },
    undoGivenAction: { input: { code, batch: assigned } },
    accommodationAction: {
      input: { code, form: { enrolmentId: s3, moreTime: 25, readAloud: true }, was: PLAIN },
    },
    previewItemAction: { input: { code, change: change('i2') } },
    changeItemAction: { input: { code, change: change('i3') } },
    undoItemAction: { input: { code, id: keyChange!.id } },
    handleQuestionsAction: { input: { code, activityId: q1.id, item: 'i2' } },
    trailAction: { input: { code, activityId: q1.id, item: 'i1', enrolmentId: s1 } },
    leansAction: { input: { code, g: null } },
    outcomeItemsAction: { input: { code, outcome: fix!.id } },
    outcomeChangesAction: { input: { code, w: '7d', g: null } },
    addGoalAction: { input: { code, form: { ...goal, student: s1 } } },
    removeGoalAction: { input: { code, id: goalToGo } },
    notTodayAction: { by: 'student', input: { course: code } },
    studyTimesAction: {
      by: 'student',
      input: { course: code, form: { minutesPerDay: 30, weekdaysOff: [7] } },
    },
    planFeedAction: { by: 'student', input: {} },
    ownAnswersAction: { by: 'student', input: { activity: q1.id } },
    askWhyAction: { by: 'student', input: { activity: q1.id, item: 'i1', on: true } },
    saveFeedAction: { input: { code, form: { ...feedForm, id: feed, name: 'Another' }, was: feedForm } },
    switchFeedAction: { input: { code, id: feed, on: false } },
    removeFeedAction: { input: { code, id: spare } },
    lookNowAction: { input: { code, id: feed } },
    openFeedFileAction: { input: { code, id: await halted('a4') } },
    acceptFileAction: { input: { code, id: await halted('a6') } },
    leaveOutAction: { input: { code, id: await halted('a5') } },
    saveRuleAction: {
      input: { code, rule: { ...ruleOf('not seen'), id: edited, name: 'Away' }, was: ruleOf('not seen') },
    },
    dryRunAction: { input: { code, rule: ruleOf('hard work') } },
    switchRuleAction: { input: { code, id: praise, on: true } },
    moveRuleAction: { input: { code, id: praise, up: false } },
    endRuleAction: { input: { code, id: over } },
    answerWaitingAction: { input: { code, ids: [await occasion('one', 'waiting')], yes: false } },
    closeWordAction: { input: { code, id: await occasion('two', 'word'), done: true } },
    saveGuardsAction: {
      input: { code, guards: { ...DEFAULT_GUARDS, mostAWeek: 1 }, was: DEFAULT_GUARDS },
    },
    saveTimesAction: { input: { code, times: { ...times, id: given, place: 'Library' }, was: times } },
    removeTimesAction: { input: { code, id: old } },
    takeTalkAction: {
      by: 'student',
      input: { times: given, startsAt: Date.parse('2026-10-29T14:00:00Z') },
    },
    cancelTalkAction: { input: { talk: talk!.id, why: 'ill' } },
    talkNoteAction: { input: talkNote },
    closeFollowUpAction: { input: { code, id: dueAct!.id, closed: true } },
    moveFollowUpAction: { input: { code, id: dueAct!.id, on: '2026-11-09' } },
    closeAgreementAction: { input: { code, id: agreement!.id, as: 'kept' } },
    passingAction: {
      input: { code, key: randomUUID(), student: s3, result: 'talked', text: '', on: '2026-10-28' },
    },
    reviewTimeAction: { input: { code, time: { weekday: 5, minute: 540 } } },
    askForHelpAction: { input: { ...help, helped: s3, helper: s1 } },
    closeHelpingAction: { input: { code, id: closed } },
    checkInAction: {
      by: 'student',
      input: { course: code, how: 'so so', inTheWay: ['time'], word: 'Two jobs' },
    },
    removeCheckInAction: { by: 'student', input: { id: said!.id } },
    answerHelpAction: { by: 'student', input: { id: asked, yes: true } },
    endHelpAction: { by: 'student', input: { id: ended } },

    importAction: { input: { code, id: staged } },
    importEveryAction: { input: { code, id: pack } },
    mapFileAction: { input: { code, id: foreign, name: 'marks.csv', mapping: MAPPING, saveAs: null } },
    removeMappingAction: { input: { code, id: mapping!.id } },
    indicatorPreviewAction: { input: { code, settings: await courseSettings(me(), code) } },
    saveSettingsAction: {
      input: {
        code,
        settings: { ...(await courseSettings(me(), code)), sessionGapMinutes: 25 },
        was: await courseSettings(me(), code),
      },
    },
    undoImportAction: { input: { code, id: all[1]!.id } },
    matchPersonAction: { input: { code, person: 'xx', enrolmentId: s4 } },
    matchByRuleAction: { input: { code } },
    dropWaitingAction: { input: { code, person: 'xx' } },

    gradeAction: { input: { code, pasted: true, cells: [{ ...cell, points: 18 }] } },
    excuseAction: { input: { code, on: true, cells: [cell] } },
    extendAction: { input: { code, due: Date.parse('2026-11-20T12:00:00Z'), cells: [cell] } },
    grantAttemptAction: { input: { code, cells: [cell] } },
    undoGradesAction: { input: { code, batch } },
    cellAction: { input: { code, enrolmentId: s1, activityId: w1.id } },
    bandsAction: {
      input: {
        code,
        bands: { practice: { low: 40, high: 80 }, other: { low: 50, high: 85 } },
        was: USUAL_BANDS,
      },
    },
    showStandingAction: { input: { code, on: true } },
    hideStandingAction: { input: { code, on: true } },

    sendAction: { input: message(s3) },
    readConversationAction: { input: { code, student: s1 } },
    callBackAction: { input: { code, message: waits } },
    saveTemplateAction: {
      input: {
        ...template,
        id: kept,
        name: 'Another',
        doc: docOf('Come by.'),
        was: { ...template, doc: docOf('Come by.') },
      },
    },
    removeTemplateAction: { input: { code, id: kept } },
    saveAudienceAction: { input: { ...audience, id: saved, name: 'Again', was: audience } },
    removeAudienceAction: { input: { code, id: saved } },
    traitCellsAction: { input: { code, keys: ['standing'] } },
    answerAction: {
      by: 'student',
      input: { recipient: copy!.id, key: randomUUID(), text: 'Thank you.' },
    },
    acceptCourseAction: { by: 'student', input: { course: code } },
    mailCopiesAction: { by: 'student', input: { on: false } },
    retryAction: { input: { code, recipient: copy!.id, email: 'lucja@students.example' } },
    addNoteAction: {
      input: { code, student: s1, kind: 'note', on: '2026-10-28', text: 'A note', followUpOn: '2026-11-02' },
    },
    removeNoteAction: { input: { code, student: s1, note } },
    putOffAction: { input: { code, student: s4, until: '2026-11-02' } },
    markSeenAction: { input: { code, student: s1, reason: 'seen' } },
    undoMarkAction: { input: { code, mark } },
    keepScopeAction: { input: { code, w: '28d', g: 'all', k: 'all' } },
    keepPlaceAction: { input: { code, student: s1, filter: 'all' } },
    pickAction: {
      input: {
        code,
        picks: [{ students: [s1, s3], reason: 'behind', about: 'behind', activityId: null, item: null }],
        source: 'rounds',
        anew: false,
      },
    },
    dropAction: { input: { code, students: [s1] } },
    finderAction: { input: { code } },
    foldRibbonAction: { input: { code, folded: true } },
    saveSignMinutesAction: { input: { code, minutes: 5 } },
    saveActivityColumnsAction: { input: { code, columns: ['days', 'views'] } },
    tickAction: { by: 'student', input: { step: planned!.id, done: true } },
    readAction: { by: 'student', input: { recipient: copy!.id } },

    saveCourseAction: {
      input: { code, form: { ...form, title: 'Navigation again' }, alsoIn: ['RAD-1'], was: form },
    },
    saveSectionAction: {
      input: { code, form: { ...view.sections[0]!, name: 'Mondays' }, was: view.sections[0] },
    },
    saveCategoryAction: {
      input: { code, form: { ...view.categories[0]!, weight: 55 }, was: view.categories[0] },
    },
    saveActivityAction: { input: { code, form: { ...final, points: 12 }, was: final } },
    saveOutcomeAction: {
      input: { code, form: { ...view.outcomes[0]!, title: 'Fixes' }, was: view.outcomes[0] },
    },
    saveGroupAction: {
      input: { code, form: { ...watch, name: 'Second watch' }, was: watch },
    },
    dueEffectAction: { input: { code, id: final.id, due: Date.parse('2026-10-01T12:00:00Z') } },
    saveStudentAction: {
      input: {
        code,
        form: { ...learner, given: 'Boa' },
        person: null,
        was: learner,
      },
    },
    moveStudentsAction: { input: { code, ids: [s1], sectionId: null } },
    setStatusAction: { input: { code, ids: [s4], status: 'withdrawn' } },
    joinCodeAction: { input: { code, on: true } },
    archiveCourseAction: { input: { code, on: false } },
    joinCourseAction: { by: 'student', input: { joinCode } },
    newCourseAction: { by: 'any instructor', input: { ...fresh, code: 'RAD-2' } },
    saveUnitAction: {
      by: 'any instructor',
      input: { id: unit, name: 'Faculty', parentId: null, was: { name: 'Institute', parentId: null } },
    },
    createKeyAction: { input: { code, label: 'Another' } },
    revokeKeyAction: { input: { code, id: made.keys[0]!.id } },
    removeAction: { input: { code, id: spareGroup.id, what: 'group' } },
    signOutDeviceAction: { by: 'anyone', input: { id: other!.id } },
    signOutElsewhereAction: { by: 'anyone', input: {} },
    eraseStudentAction: { input: { code, id: s4 } },
  };
});

/** What a student has who gets nothing beyond the others. */
const PLAIN = { moreTime: 0, readAloud: false };

/** A package of one course that is not here. */
const PACKAGE = {
  'manifest.csv':
    'propertyName,value\nmanifest.version,1.0\noneroster.version,1.1\nfile.courses,bulk\nfile.classes,bulk\nfile.users,bulk\nfile.enrollments,bulk\n',
  'courses.csv': 'sourcedId,title,courseCode\nc1,Weather,MET\nc2,Radio,RAD\n',
  'classes.csv': 'sourcedId,title,courseSourcedId\nk1,Monday,c1\n',
  'users.csv': 'sourcedId,enabledUser,role,givenName,familyName\nu1,true,student,Una,Marsh\n',
  'enrollments.csv': 'sourcedId,classSourcedId,userSourcedId,role\ne1,k1,u1,student\n',
};

const MAPPING = {
  shape: 'wide scores' as const,
  fields: { student_id: { from: 'column' as const, column: 'learner', part: 'all' as const } },
  spread: [{ column: 'mark one', to: 'w1' }],
  days: 'year first' as const,
  zone: 'Europe/Lisbon',
  words: {},
};

/** Everything that is stored, in a few letters: sessions and rates aside, which asking itself changes. */
async function stored(): Promise<string> {
  const { orm } = small.test.db;
  const names = await orm
    .select({ name: sql<string>`table_name` })
    .from(sql`information_schema.tables`)
    .where(sql`table_schema = 'public' and table_name not in ('session', 'rate_limit')`);
  const each = names.map(
    ({ name }) =>
      `select '${name}' || md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as m from "${name}" t`,
  );
  const [found] = await orm
    .select({ all: sql<string>`string_agg(m, ' ' order by m)` })
    .from(sql.raw(`(${each.join(' union all ')}) as tables`));
  return found!.all;
}

const NAMES = Object.keys(ACTIONS).sort();
/** What nobody saved, by names of every form. */
const STALE = Object.fromEntries(
  ['name', 'title', 'mostAWeek', 'moreTime', 'sessionGapMinutes', 'practice', 'place', 'given'].map((key) => [
    key,
    'older',
  ]),
);

it('what a form does not name goes no further, at any depth', async () => {
  const form = yup.object({
    a: yup.number().required(),
    list: yup.array(part({ b: yup.string().required() })).required(),
    free: yup.mixed().required(),
  });
  const input = { a: 1, more: 2, list: [{ b: ' x ', more: 3 }], free: { any: [{ thing: 1 }] } };
  expect(await named(form, input)).toEqual({ a: 1, list: [{ b: ' x ' }], free: { any: [{ thing: 1 }] } });
  // Nothing is read as what it is not.
  await expect(named(form, { ...input, a: '1' })).rejects.toThrow();
});

it('every action is tried here', () => {
  expect(NAMES).toEqual(Object.keys(cases).sort());
});

describe.each(NAMES)('%s', (name) => {
  it('is for whom it is for, and whoever else asks changes nothing', async () => {
    const { input, by } = cases[name]!;
    const others: Asker[] =
      by === 'student'
        ? ['nobody', 'instructor']
        : by === 'anyone'
          ? ['nobody']
          : by === 'any instructor'
            ? ['nobody', 'student']
            : ['nobody', 'student', 'stranger'];
    const before = await stored();
    for (const asker of others) {
      const outcome = await act(name, asker, input);
      expect(outcome, asker).toEqual({
        ok: false,
        message: expect.stringMatching(
          asker === 'nobody' ? /^Sign in to go on\.$/ : /may not see or change|^There is no such/,
        ) as string,
      });
    }
    expect(await stored()).toBe(before);
  });
});

it('no form of something stored is saved over what others saved since it was opened', async () => {
  for (const name of NAMES) {
    const { input } = cases[name]!;
    const why = WITHOUT_VERSION[name];
    if (!('was' in input)) {
      expect(why, `${name} has no version, and no reason why not`).toBeDefined();
      continue;
    }
    expect(why, name).toBeUndefined();
    const before = await stored();
    const outcome = await act(name, 'instructor', { ...input, was: { ...(input.was as object), ...STALE } });
    expect(outcome, name).toMatchObject({
      ok: false,
      message: expect.stringContaining('while you were') as string,
    });
    // Both versions are there: what is stored comes back, and nothing of it was changed.
    expect((outcome as { theirs?: object }).theirs, name).toBeTypeOf('object');
    expect(await act(name, 'instructor', { ...input, was: null }), name).toMatchObject({ ok: false });
    expect(await stored(), name).toBe(before);
  }
});

it('each does what it is for', async () => {
  const rights = new Map<string, Set<string>>();
  let now = new Set<string>();
  const note = (right: unknown) => void now.add(String(right));
  subscribe(RIGHT_ASKED, note);
  for (const [name, { input, by }] of Object.entries(cases)) {
    rights.set(name, (now = new Set()));
    const outcome = await act(name, by === 'student' ? 'student' : 'instructor', input);
    expect(outcome, name).toMatchObject({ ok: true });
  }
  unsubscribe(RIGHT_ASKED, note);
  await expect(rightsTable(rights)).toMatchFileSnapshot('../../docs/rights.md');
});

describe.each(NAMES)('%s', (name) => {
  it('answers odd input in words, and never fails over it', async () => {
    const { input, by } = cases[name]!;
    const asker = by === 'student' ? 'student' : 'instructor';
    const place = fc.constantFrom(...placesIn(input));
    await fc.assert(
      fc.asyncProperty(place, odd, async (path, value) => {
        const outcome = await act(name, asker, withValue(input, path, value));
        if (!outcome.ok) expect(outcome.message).not.toMatch(/Something went wrong/);
      }),
      { numRuns: runs(15) },
    );
  });
});
