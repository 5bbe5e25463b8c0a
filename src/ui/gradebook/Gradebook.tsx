'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useMemo, useOptimistic, useRef, useState } from 'react';
import {
  excuseAction,
  gradeAction,
  hideStandingAction,
  showStandingAction,
  undoGradesAction,
} from '@/actions/grading';
import { bandWords } from '@/core/gradebook/bands';
import { wentWords } from '@/core/gradebook/classVerdict';
import { pickOf } from '@/core/tables/pickOf';
import type { PastePreview, PasteTarget } from '@/core/gradebook/pasteScores';
import { parseScore } from '@/core/gradebook/scoreEntry';
import {
  STATUS_LETTERS,
  type Changed,
  type Conflict,
  type GradebookView,
  type GradeRow,
  type SeenCell,
} from '@/core/views/gradebook';
import { Button, buttonClasses, Key } from '../parts/Button';
import { Chips } from '../parts/Chips';
import { counted, spanText } from '@/core/format';
import { ExportLinks } from '../parts/ExportLinks';
import { Menu } from '../parts/Menu';
import { Nothing, Panel, ViewHead } from '../parts/Panel';
import { useAct } from '../parts/useAct';
import { usePick } from '../parts/usePick';
import { ScopeBar } from '../ribbon/ScopeBar';
import { address, useAddress } from '../parts/useAddress';
import { Grid, type GridHandle } from './Grid';
import {
  bandAt,
  countFilters,
  FILTER_WORDS,
  FILTERS,
  statusAt,
  mostStruggledIn,
  type GradeFilter,
} from '@/core/tables/gradeFilters';
import { shownGrades, gradePlaces, gradeRows } from '@/core/tables/gradebook';

const PasteSheet = dynamic(() => import('./PasteSheet').then((m) => m.PasteSheet));
const ConflictSheet = dynamic(() => import('./ConflictSheet').then((m) => m.ConflictSheet));
const ColumnSheet = dynamic(() => import('./ColumnSheet').then((m) => m.ColumnSheet));
const CellSheet = dynamic(() => import('./CellSheet').then((m) => m.CellSheet));
const BandsSheet = dynamic(() => import('./BandsSheet').then((m) => m.BandsSheet));
interface Score {
  readonly enrolmentId: number;
  readonly place: number;
  readonly points: number | null;
}

/** Shows scores as they will stand before the server has answered. */
const withScores = (rows: readonly GradeRow[], scores: readonly Score[]): readonly GradeRow[] =>
  rows.map((row) => {
    const own = scores.filter((s) => s.enrolmentId === row.enrolmentId);
    if (own.length === 0) return row;
    const points = [...row.points];
    const statuses = [...row.statuses];
    for (const s of own) {
      points[s.place] = s.points;
      if (s.points != null) statuses[s.place] = STATUS_LETTERS.graded;
    }
    return { ...row, points, statuses: statuses.join('') };
  });

const ADDRESS = address({ status: 'all', due: null, sort: 'family' });

/** Students by works, with what stands and what is missing; graded in place. */
export function Gradebook({ view }: { readonly view: GradebookView }) {
  const { code, zone } = view.course;
  const router = useRouter();
  const { asked, note } = useAddress(ADDRESS);
  const { act } = useAct();
  const grid = useRef<GridHandle>(null);
  const [shown, showScores] = useOptimistic(view.rows, withScores);
  const [sheet, setSheet] = useState<
    | { readonly kind: 'cell'; readonly row: GradeRow; readonly place: number }
    | { readonly kind: 'column'; readonly place: number }
    | { readonly kind: 'paste'; readonly preview: PastePreview }
    | { readonly kind: 'conflict'; readonly conflicts: readonly Conflict[]; readonly mine: readonly Score[] }
    | { readonly kind: 'bands' }
    | null
  >(null);
  const { picked, pick, toggle } = usePick(view);
  const { sort, filter, inWindow } = shownGrades(asked);
  const places = useMemo(() => gradePlaces(view, { sort, filter, inWindow }), [view, sort, filter, inWindow]);
  const rows = useMemo(
    () => gradeRows(view, shown, places, { sort, filter, inWindow }),
    [view, shown, places, sort, filter, inWindow],
  );
  const counts = useMemo(() => countFilters(view), [view]);

  const close = () => {
    setSheet(null);
    setTimeout(() => grid.current?.focus(), 0);
  };
  const undo = (batch: string | null) =>
    batch
      ? () => act(() => undoGradesAction({ code, batch }), { done: 'The scores are as before.' })
      : undefined;
  const seenOf = (row: GradeRow, place: number): SeenCell => ({
    enrolmentId: row.enrolmentId,
    activityId: view.columns[place]!.id,
    seen: { points: row.points[place] ?? null, excused: statusAt(row, place) === 'excused' },
  });
  const changed = (mine: readonly Score[]) => (value: Changed) => {
    if (value.conflicts.length > 0) setSheet({ kind: 'conflict', conflicts: value.conflicts, mine });
  };
  const send = (scores: readonly Score[], pasted: boolean, seen?: ReadonlyMap<string, SeenCell['seen']>) =>
    act(
      async () => {
        showScores(scores);
        return gradeAction({
          code,
          pasted,
          cells: scores.map((s) => {
            const row = view.rows.find((r) => r.enrolmentId === s.enrolmentId)!;
            const cell = seenOf(row, s.place);
            return { ...cell, seen: seen?.get(`${s.enrolmentId} ${s.place}`) ?? cell.seen, points: s.points };
          }),
        });
      },
      {
        done: (value) =>
          value.changed === 0 ? 'Nothing was changed.' : `${counted(value.changed, 'score')} returned.`,
        undoable: (value) => undo(value.batch),
        then: changed(scores),
      },
    );
  const onScore = (row: GradeRow, place: number, typed: string): string | null => {
    const read = parseScore(typed, view.columns[place]!.points);
    if (!read.ok) return `${row.given} ${row.family}: ${read.reason}.`;
    if (read.value === (row.points[place] ?? null)) return null;
    send([{ enrolmentId: row.enrolmentId, place, points: read.value }], false);
    return null;
  };
  const excuse = (row: GradeRow, place: number) => {
    const on = statusAt(row, place) !== 'excused';
    act(() => excuseAction({ code, cells: [seenOf(row, place)], on }), {
      done: `${row.given} ${row.family} is ${on ? 'excused from' : 'no longer excused from'} ${view.columns[place]!.title}.`,
      undoable: (value) => undo(value.batch),
      then: changed([]),
    });
  };
  const pickCell = (row: GradeRow, place: number) => {
    const column = view.columns[place]!;
    toggle(row.enrolmentId, pickOf(bandAt(row, column, place, view.bands) ?? statusAt(row, place), column));
  };
  const paste = (text: string, fromRow: number, fromColumn: number) => {
    const targets = rows.slice(fromRow).map((row) =>
      places.slice(fromColumn).map((place): PasteTarget => {
        const column = view.columns[place]!;
        return {
          enrolmentId: row.enrolmentId,
          activityId: column.id,
          student: `${row.given} ${row.family}`,
          activity: column.title,
          maximum: column.points,
          points: row.points[place] ?? null,
          closed: null,
        };
      }),
    );
    void import('@/core/gradebook/pasteScores').then(({ previewPaste }) =>
      setSheet({ kind: 'paste', preview: previewPaste(text, targets) }),
    );
  };
  const placeOf = new Map(view.columns.map((c, i) => [c.id, i]));

  if (view.columns.length === 0) {
    return (
      <>
        <ViewHead title="The gradebook is empty" />
        <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course} />
        <Panel>
          <Nothing
            title={view.scope.kind ? `No assignment of the kind “${view.scope.kind}”` : 'No assignments yet'}
          >
            <p>
              {view.scope.kind
                ? 'Choose “All kinds” above.'
                : 'Import the activities and the gradebook, and they stand here.'}
            </p>
            <a href={`/c/${code}/import`} className={buttonClasses('main')}>
              Import files
            </a>
          </Nothing>
        </Panel>
      </>
    );
  }
  const seenCount = filter ? counts[filter] : null;
  return (
    <>
      <ViewHead
        title={headline(counts)}
        aside={
          <span className="text-muted no-print flex items-center gap-1.5 text-[13px] max-sm:hidden">
            edit <Key>Enter</Key> select <Key>t</Key> details <Key>o</Key> excuse <Key>e</Key> column{' '}
            <Key>h</Key>
          </span>
        }
      >
        {hint(view)}
      </ViewHead>
      <ScopeBar ribbon={view.ribbon} scope={view.scope} course={view.course}>
        <span>
          Low: {bandWords('low', view.bands.other)}
          {view.bands.practice.low === view.bands.other.low
            ? ''
            : `, practice ${bandWords('low', view.bands.practice)}`}
        </span>
      </ScopeBar>
      <div className="no-print mb-2 flex flex-wrap items-center gap-2 text-[13px]">
        <Chips
          label="Show"
          value={filter ?? 'all'}
          options={[
            { value: 'all', label: 'Everything' },
            ...FILTERS.map((f) => ({ value: f, label: FILTER_WORDS[f], count: counts[f].cells })),
          ]}
          onChange={(v) => note({ status: v })}
        />
        {filter && seenCount ? (
          <Button
            small
            onClick={() =>
              pick(
                rows.map((r) => r.enrolmentId),
                pickOf(filter, places.length === 1 ? view.columns[places[0]!]! : null),
              )
            }
          >
            Select these {counted(rows.length, 'student')}
          </Button>
        ) : null}
        {filter && places.length < view.columns.length ? (
          <span className="text-muted">
            {counted(view.columns.length - places.length, 'assignment')} without any folded
          </span>
        ) : null}
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-teal size-3.5"
            checked={inWindow}
            onChange={(e) => note({ due: e.target.checked ? 'window' : null })}
          />
          Due {spanText(view.scope.window)}
        </label>
        <span className="ml-auto flex items-center gap-1.5">
          <Menu
            label="View"
            items={[
              { label: 'Score bands …', onSelect: () => setSheet({ kind: 'bands' }) },
              {
                label: view.hidesStanding ? 'Show the standing column' : 'Hide the standing column',
                onSelect: () => act(() => hideStandingAction({ code, on: !view.hidesStanding })),
              },
              {
                label: view.studentsSeeStanding
                  ? 'Hide their standing from students'
                  : 'Show students their standing',
                onSelect: () =>
                  act(() => showStandingAction({ code, on: !view.studentsSeeStanding }), {
                    done: view.studentsSeeStanding
                      ? 'Students no longer see their standing.'
                      : 'Students see their standing.',
                  }),
              },
            ]}
          />
          <ExportLinks
            prints={false}
            code={code}
            list="gradebook"
            extra={{ status: filter, sort, due: inWindow ? 'window' : null }}
          />
        </span>
      </div>
      {rows.length === 0 || places.length === 0 ? (
        <Panel>
          <Nothing
            title={
              places.length === 0 && !filter ? `Nothing is due ${spanText(view.scope.window)}` : 'Nobody here'
            }
          >
            <Button onClick={() => note({ status: null, due: null })}>Show everything</Button>
          </Nothing>
        </Panel>
      ) : (
        <Grid
          view={view}
          rows={rows}
          places={places}
          filter={filter}
          sort={sort}
          hidesStanding={view.hidesStanding}
          picked={picked}
          handle={grid}
          onSort={(by) => note({ sort: by })}
          onPick={(row) =>
            toggle(row.enrolmentId, filter ? pickOf(filter, null) : 'selected in the gradebook')
          }
          onPickCell={pickCell}
          onColumn={(place) => setSheet({ kind: 'column', place })}
          onOpen={(row, place) => setSheet({ kind: 'cell', row, place })}
          onScore={onScore}
          onExcuse={excuse}
          onPaste={paste}
        />
      )}
      {sheet?.kind === 'cell' ? (
        <CellSheet
          code={code}
          zone={zone}
          today={view.scope.today}
          cell={seenOf(sheet.row, sheet.place)}
          onClose={close}
          onUndo={(batch) => undo(batch)?.()}
        />
      ) : null}
      {sheet?.kind === 'column' ? (
        <ColumnSheet
          view={view}
          place={sheet.place}
          onClose={close}
          onPick={(students, reason) => {
            pick(students, reason);
            close();
          }}
          onOpen={() => router.push(`/c/${code}/work/${view.columns[sheet.place]!.id}`)}
          onUndo={(batch) => undo(batch)?.()}
        />
      ) : null}
      {sheet?.kind === 'paste' ? (
        <PasteSheet
          preview={sheet.preview}
          onClose={close}
          onTake={() => {
            const scores = sheet.preview.changes.map((c) => ({
              enrolmentId: c.target.enrolmentId,
              place: placeOf.get(c.target.activityId)!,
              points: c.points,
            }));
            close();
            send(scores, true);
          }}
        />
      ) : null}
      {sheet?.kind === 'conflict' ? (
        <ConflictSheet
          conflicts={sheet.conflicts}
          zone={zone}
          mine={sheet.mine.map((s) => ({
            enrolmentId: s.enrolmentId,
            activityId: view.columns[s.place]!.id,
            points: s.points,
          }))}
          onClose={close}
          onInsist={() => {
            const { conflicts, mine } = sheet;
            const seen = new Map(
              conflicts.map((c) => [
                `${c.enrolmentId} ${placeOf.get(c.activityId)}`,
                { points: c.points, excused: c.excused },
              ]),
            );
            close();
            send(
              mine.filter((s) => seen.has(`${s.enrolmentId} ${s.place}`)),
              false,
              seen,
            );
          }}
        />
      ) : null}
      {sheet?.kind === 'bands' ? <BandsSheet code={code} bands={view.bands} onClose={close} /> : null}
    </>
  );
}

function headline(counts: Record<GradeFilter, { cells: number; students: number }>): string {
  const missing = counts.missing.cells;
  const waiting = counts['awaiting grade'].cells;
  if (missing === 0 && waiting === 0) return 'Nothing is missing and nothing is left to grade';
  return `${counted(missing, 'assignment')} missing, ${waiting} to grade`;
}

/** The assignment in which most struggled: what to reteach. */
function hint(view: GradebookView): string {
  const worst = mostStruggledIn(view);
  return worst ? `Many struggled with ${wentWords(worst)}.` : 'No assignment in which many struggled.';
}
