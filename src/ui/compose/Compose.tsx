'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { callBackAction } from '@/actions/messages';
import { addDays } from '@/core/calendar/zone';
import { counted, weekdayAndTime } from '@/core/format';
import type { AlongForm, DraftForm, TextForm } from '@/core/forms/message';
import { embarrassments } from '@/core/messages/checks';
import { docText } from '@/core/messages/docText';
import { starterFor } from '@/core/messages/starters';
import { MOST_STEPS } from '@/core/plans/plan';
import type { Instant } from '@/core/units';
import type { ComposeRecipient, ComposeView } from '@/core/views/compose';
import { Button, buttonClasses } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { DocText } from '../parts/DocText';
import { LevelMark } from '../parts/Level';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { useUnsavedWarning } from '../parts/useUnsavedWarning';
import {
  blockLabel,
  blocksOf,
  draftSteps,
  newStep,
  previewFor,
  toStepInput,
  type Block,
  type DraftStep,
} from './draft';
import { keepDraft } from './keptDraft';
import { LeftOut } from './LeftOut';
import { Along } from './Along';
import { Recipients } from './Recipients';
import { SendButtons } from './SendButtons';
import { sendMessages } from './sendMessages';
import { StepChooser } from './StepChooser';
import { TemplateMenu } from './TemplateMenu';
import { TextFields } from './TextFields';
import { useHolds } from './useHolds';

/** Where the plan of one recipient is changed; its fields come beside the page. */
const PlanEditor = dynamic(() => import('./PlanEditor').then((m) => m.PlanEditor), {
  loading: () => <div role="status" aria-label="Loading" className="min-h-64" />,
});

/** What checks texts and plans; it is not needed to write them. */
const loadChecks = async () => ({
  ...(await import('@/core/forms/message')),
  ...(await import('@/core/forms/rules')),
});

/** Days until the writer looks again, unless they choose another day. */
const LOOK_AGAIN_DAYS = 7;

interface Props {
  readonly view: ComposeView;
  readonly withPlan: boolean;
  /** What was called back, to be written on. */
  readonly start?: DraftForm | null;
}

/** Writes to the recipients, each with their own words and plan: a text for each reason they were selected for. */
export function Compose({ view, withPlan, start }: Props) {
  const { code, zone } = view.course;
  const router = useRouter();
  const { busy, act } = useAct();
  // One key for this composition: sending it twice, or again after a break, never delivers twice.
  const [key] = useState(() => crypto.randomUUID());
  const [texts, setTexts] = useState<ReadonlyMap<string, TextForm>>(
    () => new Map(start?.texts.map(({ key: block, text }) => [block, text])),
  );
  /** Texts for one recipient alone. */
  const [own, setOwn] = useState<ReadonlyMap<number, TextForm>>(
    () => new Map(start?.own.map(({ id, text }) => [id, text])),
  );
  // The editor begins anew when another text is put in its place.
  const [begun, setBegun] = useState(0);
  const [asOne, setAsOne] = useState(start?.asOne ?? false);
  const [plans, setPlans] = useState(start?.plans ?? withPlan);
  const [gone, setGone] = useState<ReadonlySet<number>>(new Set(start?.gone));
  const [allTheSame, setAllTheSame] = useState(start?.allTheSame ?? view.recipients.length === 1);
  const [shownId, setShownId] = useState(view.recipients[0]?.enrolmentId ?? null);
  const [edited, setEdited] = useState<ReadonlyMap<number, readonly DraftStep[]>>(
    () =>
      new Map([
        ...view.recipients.map((r) => [r.enrolmentId, draftSteps(r)] as const),
        ...(start?.steps ?? []).map(({ id, steps }) => [id, steps] as const),
      ]),
  );
  // The plan in sight is drawn anew once a step was added to all.
  const [added, setAdded] = useState(0);
  const planForm = useRef<HTMLFormElement>(null);
  /** What is wrong with texts that cannot be sent as they stand, by their blocks. */
  const [wrong, setWrong] = useState<ReadonlyMap<string, string>>(new Map());
  useEffect(() => {
    let current = true;
    const all = [...texts, ...[...own].map(([id, text]) => [`own ${id}`, text] as const)];
    void loadChecks().then(({ faultOf, textForm }) => {
      const faults = all.flatMap(([block, text]) => {
        const fault = faultOf(textForm, text);
        return fault ? [[block, fault] as const] : [];
      });
      if (current) setWrong(new Map(faults));
    });
    return () => {
      current = false;
    };
  }, [texts, own]);
  const [along, setAlong] = useState<AlongForm>(
    start?.along ?? {
      offersTalk: view.talks.free > 0 && view.recipients.some((r) => r.picked.about === 'low score'),
      saysWhy: false,
      lookAgainOn: addDays(view.today, LOOK_AGAIN_DAYS),
    },
  );
  useUnsavedWarning(texts.size > 0 || own.size > 0);

  const isLately = (r: ComposeRecipient) => !allTheSame && r.lastSame != null;
  const kept = view.recipients.filter((r) => !gone.has(r.enrolmentId));
  const lately = kept.filter(isLately);
  const recipients = kept.filter((r) => !isLately(r));
  const reasons = blocksOf(recipients, false);
  const blocks = asOne ? blocksOf(recipients, true) : reasons;
  const blockOf = new Map(blocks.flatMap((b) => b.ids.map((id) => [id, b] as const)));
  const textOf = (block: Block): TextForm => texts.get(block.key) ?? starterFor(block.about);
  const textFor = (id: number): TextForm => own.get(id) ?? textOf(blockOf.get(id)!);
  const stepsOf = (id: number): readonly DraftStep[] | null => {
    const steps = edited.get(id) ?? [];
    return plans && steps.length > 0 ? steps : null;
  };
  const holds = useHolds(view, [...blocks.map((b) => textOf(b).doc), ...[...own.values()].map((t) => t.doc)]);
  const previews = recipients.map((r) => {
    const id = r.enrolmentId;
    const preview = previewFor(textFor(id), r.values, stepsOf(id), (where) => holds?.(where, id) ?? false);
    return { recipient: r, preview };
  });
  const shown = previews.find((p) => p.recipient.enrolmentId === shownId) ?? previews[0];
  const block = shown && blockOf.get(shown.recipient.enrolmentId);
  const ownText = shown && own.get(shown.recipient.enrolmentId);
  const holes = previews.filter((p) => p.preview.holes.length > 0);
  const checks = previews.flatMap(({ recipient: r, preview }) => {
    const text = `${preview.subject}\n${docText(preview.doc)}`;
    const says = embarrassments(text, { givenName: r.givenName, today: view.today });
    return says.length > 0 ? [{ name: r.name, says }] : [];
  });
  const first = addDays(view.today, 1);

  const begin = (text: TextForm) => {
    if (!block) return;
    // A subject that was written stays.
    const before = texts.get(block.key);
    const touched = before != null && before.subject !== starterFor(block.about).subject;
    setTexts(new Map(texts).set(block.key, { ...text, subject: touched ? before.subject : text.subject }));
    setBegun(begun + 1);
  };
  const addToAll = (ids: readonly number[]) => (activity: ComposeView['activities'][number] | null) => {
    setAdded(added + 1);
    setEdited(
      new Map(
        [...edited].map(([id, steps]) =>
          ids.includes(id) && steps.length < MOST_STEPS
            ? [id, [...steps, newStep(activity, steps.at(-1)?.on ?? first)]]
            : [id, steps],
        ),
      ),
    );
  };
  const send = (at: Instant | null) => {
    // A day that cannot be read is said where it stands; the plan must not go with the day before.
    if (planForm.current?.reportValidity() === false) return;
    act(
      async () => {
        const { faultOf, stepsForm } = await loadChecks();
        const unfinished = recipients.find(
          ({ enrolmentId }) => plans && faultOf(stepsForm, { steps: edited.get(enrolmentId) ?? [] }),
        );
        if (unfinished) {
          setShownId(unfinished.enrolmentId);
          return { ok: false, message: `Look at the plan for ${unfinished.name}: a step is not whole.` };
        }
        keepDraft(code, {
          texts: [...texts].map(([block, text]) => ({ key: block, text })),
          own: [...own].map(([id, text]) => ({ id, text })),
          steps: [...edited].map(([id, steps]) => ({ id, steps: [...steps] })),
          asOne,
          plans,
          gone: [...gone],
          allTheSame,
          along,
        });
        return sendMessages(
          code,
          blocks.map((b, i) => ({
            key: i === 0 ? key : `${key}.${i}`,
            ...textOf(b),
            reason: b.reason,
            about: b.about,
            activityId: b.activityId,
            item: b.item,
            recipients: b.ids.map((enrolmentId) => ({
              enrolmentId,
              plan: stepsOf(enrolmentId)?.map(toStepInput) ?? null,
              own: own.get(enrolmentId) ?? null,
            })),
          })),
          at,
          along,
        );
      },
      {
        done: (sent) => {
          if (sent.again) return 'This had been sent already; nothing was sent again.';
          const whom = recipients.length === 1 ? recipients[0]!.name : counted(sent.recipients, 'student');
          if (sent.goesAt == null) return `Sent to ${whom}.`;
          return at == null
            ? `Goes to ${whom} in a moment; until then it can be called back.`
            : `Goes to ${whom} on ${weekdayAndTime(sent.goesAt, zone)}.`;
        },
        undoable: (sent) =>
          sent.goesAt == null || sent.again
            ? undefined
            : () =>
                act(() => callBackAction({ code, message: sent.messageId }), {
                  done: 'Called back: nothing was sent.',
                  then: () => router.push(`/c/${code}/compose?back=1${plans ? '&plan=1' : ''}`),
                }),
        then: (sent) =>
          router.push(sent.messages === 1 ? `/c/${code}/messages/${sent.messageId}` : `/c/${code}/messages`),
      },
    );
  };

  if (view.recipients.length === 0) {
    return (
      <Panel>
        <Nothing title="Nobody is selected to write to">
          <p>Choose students by a condition, or select them in Rounds.</p>
          <p className="flex flex-wrap justify-center gap-2">
            <Link href={`/c/${code}/audiences`} className={buttonClasses('main')}>
              Choose an audience
            </Link>
            <Link href={`/c/${code}/rounds`} className={buttonClasses('plain')}>
              Go to Rounds
            </Link>
          </p>
        </Nothing>
      </Panel>
    );
  }
  const withoutMail = recipients.filter((r) => !r.email || !r.mailCopies);
  const blocked =
    recipients.length === 0 ||
    holes.length > 0 ||
    holds == null ||
    blocks.some((b) => wrong.has(b.key)) ||
    recipients.some((r) => wrong.has(`own ${r.enrolmentId}`));
  const hole = holes[0];
  return (
    <>
      <ViewHead
        title={
          recipients.length === 1
            ? `Write to ${recipients[0]!.name}`
            : `Write to ${counted(recipients.length, 'student')}${blocks.length > 1 ? `, ${blocks.length} texts by reason` : ', each with their own text'}`
        }
        aside={
          <div className="flex flex-wrap items-center gap-2">
            <Link href={`/c/${code}/rounds`} className={buttonClasses('quiet')}>
              Back to Rounds
            </Link>
            <SendButtons
              n={recipients.length}
              zone={zone}
              today={view.today}
              disabled={blocked}
              busy={busy}
              onSend={send}
            />
          </div>
        }
      >
        {plans ? 'Each gets a short plan of their own; look it over before sending. ' : ''}
        {withoutMail.length > 0
          ? `${counted(withoutMail.length, 'student')} will read it here only.`
          : 'In the application and by e-mail.'}
      </ViewHead>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
        <Panel className="space-y-3 p-4">
          {reasons.length > 1 ? (
            <div className="space-y-2">
              {blocks.length > 1 && block ? (
                <Chips
                  label="Text for"
                  value={block.key}
                  options={blocks.map((b) => ({
                    value: b.key,
                    label: blockLabel(b, blocks),
                    count: b.ids.length,
                  }))}
                  onChange={(chosen) => setShownId(blocks.find((b) => b.key === chosen)?.ids[0] ?? shownId)}
                />
              ) : null}
              <label className="text-muted flex items-center gap-2 text-[13px]">
                <input
                  type="checkbox"
                  className="accent-teal size-4"
                  checked={asOne}
                  onChange={(e) => setAsOne(e.target.checked)}
                />
                One text for all
              </label>
            </div>
          ) : null}
          {block ? (
            <>
              <TemplateMenu
                key={block.key}
                code={code}
                templates={view.templates}
                about={block.about}
                text={textOf(block)}
                onUse={begin}
              />
              <TextFields
                key={`${block.key} ${begun}`}
                text={textOf(block)}
                course={view.about}
                fault={wrong.get(block.key) ?? null}
                onChange={(text) => setTexts((all) => new Map(all).set(block.key, text))}
              />
            </>
          ) : null}
          <div className="flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-2 font-semibold">
              <input
                type="checkbox"
                className="accent-teal size-4"
                checked={plans}
                onChange={(e) => setPlans(e.target.checked)}
              />
              With a study plan for each
            </label>
            {plans && block && block.ids.length > 1 ? (
              <StepChooser
                activities={view.activities}
                label={
                  blocks.length > 1 ? `Add to these ${block.ids.length}` : `Add to all ${recipients.length}`
                }
                onAdd={addToAll(block.ids)}
              />
            ) : null}
          </div>
          <Along
            code={code}
            zone={zone}
            today={view.today}
            talks={view.talks}
            along={along}
            onChange={setAlong}
          />
          {hole ? (
            <p role="alert" className="text-plum">
              {holes.length === 1 ? `${hole.recipient.name} has` : `${holes.length} students have`} nothing
              for “{hole.preview.holes[0]}”. Select that field and say what stands there instead, or remove
              them.
            </p>
          ) : null}
        </Panel>
        <div className="space-y-3">
          <Panel className="max-h-72 overflow-auto">
            <Recipients
              lines={previews.map((p) => ({
                recipient: p.recipient,
                hole: p.preview.holes.length > 0,
                own: own.has(p.recipient.enrolmentId),
                steps: plans ? (stepsOf(p.recipient.enrolmentId)?.length ?? 0) : null,
              }))}
              shown={shown?.recipient.enrolmentId ?? null}
              onShow={setShownId}
              onRemove={(id) => setGone(new Set([...gone, id]))}
            />
            <LeftOut
              lately={lately}
              removed={view.recipients.filter((r) => gone.has(r.enrolmentId))}
              withoutMail={withoutMail}
              checks={checks}
              onTakeIn={(people) => {
                if (people.some((r) => gone.has(r.enrolmentId))) setGone(new Set());
                else setAllTheSame(true);
              }}
              onShow={(name) => setShownId(recipients.find((r) => r.name === name)?.enrolmentId ?? shownId)}
            />
          </Panel>
          {shown ? (
            <Panel className="space-y-3 p-4">
              <section aria-label={`What ${shown.recipient.name} will read`}>
                <div className="mb-1 flex items-baseline justify-between gap-2">
                  <p className="text-muted text-[13px]">What {shown.recipient.name} will read</p>
                  {ownText ? (
                    <Button
                      small
                      look="quiet"
                      onClick={() =>
                        setOwn(new Map([...own].filter(([id]) => id !== shown.recipient.enrolmentId)))
                      }
                    >
                      Back to the text of all
                    </Button>
                  ) : (
                    <Button
                      small
                      look="quiet"
                      onClick={() =>
                        setOwn(
                          new Map(own).set(shown.recipient.enrolmentId, {
                            subject: shown.preview.subject,
                            doc: shown.preview.doc,
                          }),
                        )
                      }
                    >
                      Change for this one
                    </Button>
                  )}
                </div>
                {ownText ? (
                  <div className="space-y-3">
                    <TextFields
                      key={shown.recipient.enrolmentId}
                      text={ownText}
                      course={view.about}
                      plain
                      fault={wrong.get(`own ${shown.recipient.enrolmentId}`) ?? null}
                      onChange={(text) =>
                        setOwn((all) => new Map(all).set(shown.recipient.enrolmentId, text))
                      }
                    />
                  </div>
                ) : (
                  <>
                    <p className="font-semibold">{shown.preview.subject}</p>
                    <div className="mt-2">
                      <DocText doc={shown.preview.doc} />
                    </div>
                  </>
                )}
              </section>
              {shown.recipient.reasons.length > 0 ? (
                <ul className="text-muted border-line space-y-0.5 border-t pt-2 text-[13px]">
                  {shown.recipient.reasons.map((reason) => (
                    <li key={reason.kind} className="flex gap-1.5">
                      <LevelMark level={reason.level} /> {reason.head} {reason.rest}
                    </li>
                  ))}
                </ul>
              ) : null}
              {plans ? (
                <section
                  aria-label={`Plan for ${shown.recipient.name}`}
                  className="border-line border-t pt-3"
                >
                  <h2 className="mb-1.5 font-semibold">Plan for {shown.recipient.name}</h2>
                  <PlanEditor
                    key={`${shown.recipient.enrolmentId} ${added}`}
                    form={planForm}
                    name={shown.recipient.name}
                    steps={edited.get(shown.recipient.enrolmentId) ?? []}
                    activities={view.activities}
                    missing={shown.recipient.missing}
                    first={first}
                    onChange={(steps) =>
                      setEdited((all) => new Map(all).set(shown.recipient.enrolmentId, steps))
                    }
                  />
                </section>
              ) : null}
            </Panel>
          ) : (
            <Panel>
              <Nothing title="Everybody has been removed or left out" />
            </Panel>
          )}
        </div>
      </div>
    </>
  );
}
