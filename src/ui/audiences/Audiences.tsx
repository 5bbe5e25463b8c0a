'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { removeAudienceAction, saveAudienceAction } from '@/actions/audiences';
import { counted } from '@/core/format';
import { audienceMembers, faultsIn, keysIn, type Members } from '@/core/people/savedAudience';
import { pickOfAudience } from '@/core/people/pickOfAudience';
import { selectionSentence } from '@/core/people/selectionWords';
import type { Selection } from '@/core/rules/selection';
import type { AudiencesView } from '@/core/views/audiences';
import { Button, buttonClasses } from '../parts/Button';
import { Field, TextInput } from '../parts/Field';
import { Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { ConditionGroup } from '../condition/ConditionGroup';
import { Moving } from './Moving';
import { SavedList } from './SavedList';
import { useCells } from '../condition/useCells';

const NOBODY: Members = { match: [], unknown: [] };

/** An audience while it is built: the condition, who is in it as it changes, and what can be done with them. */
export function Audiences({ view }: { readonly view: AudiencesView }) {
  const { code } = view.course;
  const router = useRouter();
  const { busy, act } = useAct();
  const { pick } = usePick(view);
  const [where, setWhere] = useState<Selection>(view.open.where);
  const [added, setAdded] = useState<readonly number[]>(view.open.added);
  const [removed, setRemoved] = useState<readonly number[]>(view.open.removed);
  const [name, setName] = useState(view.open.name);
  // Others may save it meanwhile, and the page be drawn anew: what was opened stays what is compared with.
  const [opened, setOpened] = useState<object>(view.open);
  const [before, setBefore] = useState<ReadonlySet<number> | null>(null);
  const ids = useMemo(() => view.people.map((p) => p.id), [view.people]);
  const faults = faultsIn(where, view.about);
  const cells = useCells(code, view.cells, keysIn(where));
  const members = useMemo(
    () =>
      cells && faults.length === 0
        ? audienceMembers({ where, added, removed }, ids, (key) => cells[key] ?? [])
        : null,
    // Whether something is wrong follows from the condition.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [cells, where, added, removed, ids],
  );
  // While cells are on their way, and where nothing can be judged, what was there stays in sight.
  const [kept, setKept] = useState<Members>(members ?? NOBODY);
  if (members && members !== kept) setKept(members);
  const shown = members ?? (faults.length > 0 ? NOBODY : kept);
  const match = new Set(shown.match);
  const change = (next: () => void) => {
    setBefore(match);
    next();
  };
  const sentence = selectionSentence(where, view.about);
  const n = shown.match.length;
  const save = (id: number | null) => {
    const form = { id, name, where, added: [...added], removed: [...removed] };
    const over = (was: object | null) => saveAudienceAction({ code, ...form, was });
    act(() => over(id == null ? null : opened), {
      done: `“${name.trim()}” is saved.`,
      edit: { mine: form, over },
      then: (saved) => {
        setOpened({ ...form, id: saved, name: name.trim() });
        router.replace(`/c/${code}/audiences?a=${saved}`);
      },
    });
  };
  return (
    <>
      <ViewHead
        title={`${n} of ${counted(view.people.length, 'student')} ${n === 1 ? 'is' : 'are'} in this audience`}
        aside={
          <div className="flex flex-wrap items-center gap-2">
            <Button
              look="main"
              disabled={n === 0 || busy}
              onClick={() => pick(shown.match, pickOfAudience(where, view.about))}
            >
              Select {n}
            </Button>
            <a href={`/c/${code}/audiences`} className={buttonClasses('quiet')}>
              Start anew
            </a>
          </div>
        }
      >
        {sentence}
        {shown.unknown.length > 0
          ? ` Of ${counted(shown.unknown.length, 'more student')} it is not known.`
          : ''}
      </ViewHead>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="space-y-4">
          <Panel className="space-y-3 p-4">
            <ConditionGroup
              key={view.open.id ?? 'new'}
              where={where}
              course={view.about}
              place=""
              onChange={(next) => change(() => setWhere(next))}
            />
            {faults.length > 0 ? (
              <ul role="alert" className="text-plum">
                {faults.map((fault) => (
                  <li key={fault}>{fault}</li>
                ))}
              </ul>
            ) : null}
            <form
              className="border-line flex flex-wrap items-end gap-2 border-t pt-3"
              onSubmit={(e) => {
                e.preventDefault();
                save(view.open.id);
              }}
            >
              <Field label="Name" className="min-w-48 flex-1">
                {(field) => (
                  <TextInput
                    {...field}
                    maxLength={80}
                    value={name}
                    placeholder="Behind on chart work"
                    onChange={(e) => setName(e.target.value)}
                  />
                )}
              </Field>
              <Button type="submit" look="main" disabled={busy || name.trim() === '' || faults.length > 0}>
                {view.open.id == null ? 'Save as an audience' : 'Save the change'}
              </Button>
              {view.open.id != null ? (
                <Button
                  disabled={busy || name.trim() === '' || name.trim() === view.open.name || faults.length > 0}
                  onClick={() => save(null)}
                >
                  Save as another
                </Button>
              ) : null}
            </form>
          </Panel>
          <SavedList
            code={code}
            lines={view.saved}
            open={view.open.id}
            busy={busy}
            onRemove={(line) =>
              act(() => removeAudienceAction({ code, id: line.id }), {
                done: `“${line.name}” is removed.`,
                undo: (form) =>
                  act(() => saveAudienceAction({ code, ...form, was: null }), {
                    done: 'It is back.',
                  }),
                then: () => {
                  if (line.id === view.open.id) router.replace(`/c/${code}/audiences`);
                },
              })
            }
          />
        </div>
        <Panel className="max-h-[34rem] overflow-auto">
          <h2
            className="border-line bg-panel sticky top-0 z-10 border-b px-3 py-2 font-semibold"
            aria-live="polite"
          >
            {counted(n, 'student')}
            {members ? '' : ' …'}
          </h2>
          <Moving
            code={code}
            people={view.people}
            match={match}
            unknown={new Set(shown.unknown)}
            before={before ?? match}
            added={new Set(added)}
            removed={new Set(removed)}
            onAdd={(id) => change(() => setAdded([...added, id]))}
            onTakeOut={(id) =>
              change(() => {
                if (added.includes(id)) setAdded(added.filter((a) => a !== id));
                else setRemoved([...removed, id]);
              })
            }
            onRestore={(id) => change(() => setRemoved(removed.filter((r) => r !== id)))}
          />
          {n === 0 && members ? (
            <p className="text-muted px-3 py-3">
              Nobody matches.{' '}
              <Link href={`/c/${code}/rounds`} className="text-teal font-semibold">
                Rounds
              </Link>{' '}
              shows who needs something now.
            </p>
          ) : null}
        </Panel>
      </div>
    </>
  );
}
