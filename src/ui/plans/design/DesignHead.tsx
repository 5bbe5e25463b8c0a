'use client';
import type { AttemptChoice, HandOut, PlanDesign } from '@/core/plans/design';
import { emptyGroup, newDesign } from '@/core/plans/edit';
import type { DesignView } from '@/core/views/design';
import { Choose } from '../../parts/Choose';
import { Field, TextInput } from '../../parts/Field';
import { Panel } from '../../parts/Panel';

const NONE = { value: '', label: 'none' };

/** What a plan design is for, what decides, and who hands it out. */
export function DesignHead({
  design,
  view,
  onChange,
}: {
  readonly design: PlanDesign;
  readonly view: DesignView;
  readonly onChange: (design: PlanDesign) => void;
}) {
  const set = (change: Partial<PlanDesign>) => onChange({ ...design, ...change });
  const { branch } = design;
  const quizzes = view.activities.filter((a) => a.points);
  const toQuiz = (value: string) => {
    if (value === '') return set({ branch: null });
    const quizId = Number(value);
    set({ branch: branch ? { ...branch, quizId } : newDesign('', quizId).branch });
  };
  return (
    <Panel className="mb-3 p-3">
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-[1fr_1.4fr_11rem]">
        <Field label="Title">
          {(ids) => (
            <TextInput
              {...ids}
              maxLength={120}
              value={design.title}
              onChange={(e) => set({ title: e.target.value })}
            />
          )}
        </Field>
        <Field label="What it is for">
          {(ids) => (
            <TextInput
              {...ids}
              maxLength={500}
              placeholder="For the student to read"
              value={design.purpose}
              onChange={(e) => set({ purpose: e.target.value })}
            />
          )}
        </Field>
        <Field label="Handed out">
          {(ids) => (
            <Choose<HandOut>
              {...ids}
              label="Handed out"
              value={design.handOut}
              options={[
                { value: 'by itself', label: 'by itself' },
                { value: 'released', label: 'when I say so' },
              ]}
              onChange={(handOut) => set({ handOut })}
            />
          )}
        </Field>
        <Field label="Pre-check, not graded">
          {(ids) => (
            <Choose
              {...ids}
              label="Pre-check, not graded"
              value={design.preCheckId == null ? '' : String(design.preCheckId)}
              options={[
                NONE,
                ...view.activities
                  .filter((a) => a.kind === 'quiz' || a.kind === 'practice')
                  .map((a) => ({ value: String(a.id), label: a.title })),
              ]}
              onChange={(v) => {
                const preCheckId = v === '' ? null : Number(v);
                const sections =
                  design.sections.length > 0 || preCheckId == null
                    ? design.sections.map((s) => ({ ...s, items: [] }))
                    : [{ ...emptyGroup('section-1'), outcomeId: null, purpose: '', items: [] }];
                set({ preCheckId, sections });
              }}
            />
          )}
        </Field>
        <Field label="By the score of">
          {(ids) => (
            <Choose
              {...ids}
              label="By the score of"
              value={branch ? String(branch.quizId) : ''}
              options={[NONE, ...quizzes.map((a) => ({ value: String(a.id), label: a.title }))]}
              onChange={toQuiz}
            />
          )}
        </Field>
        {branch ? (
          <Field label="Which attempt">
            {(ids) => (
              <Choose<AttemptChoice>
                {...ids}
                label="Which attempt"
                value={branch.attempt}
                options={[
                  { value: 'first', label: 'the first' },
                  { value: 'best', label: 'the best' },
                  { value: 'last', label: 'the last' },
                ]}
                onChange={(attempt) => set({ branch: { ...branch, attempt } })}
              />
            )}
          </Field>
        ) : null}
      </div>
    </Panel>
  );
}
