import { readSelection } from '@/core/rules/selectionSchema';
import { faultsIn, keysIn, type TraitCells } from '@/core/people/savedAudience';
import { selectionSentence } from '@/core/people/selectionWords';
import type { Selection } from '@/core/rules/selection';
import type { AudienceLine, AudiencesView } from '@/core/views/audiences';
import { trayOf } from '@/data/queries/tray';
import { requireCourse, type Viewer } from '../access/viewer';
import { database } from '../base/database';
import { ensureEvaluated } from '../derive/evaluation';
import { courseHead } from '../snapshot/courseHead';
import { snapshotOf } from '../snapshot/snapshot';
import { classTraits, type ClassTraits } from '../snapshot/traits';

/** What an address asks the builder to begin with; anything in it may be nonsense. */
export interface AskedAudience {
  readonly a?: number;
  readonly where?: string;
}

const NOTHING_YET: Selection = { all: [] };

function readWhere(text: string | undefined): Selection | null {
  try {
    return text ? readSelection(JSON.parse(text)) : null;
  } catch {
    return null;
  }
}

/** The saved audiences of a course, and one that is being built. */
export async function audiencesView(
  viewer: Viewer,
  code: string,
  asked: AskedAudience,
): Promise<AudiencesView> {
  const row = await ensureEvaluated(await requireCourse(viewer, 'look', code));
  const traits = await classTraits(await snapshotOf(row));
  const tray = await trayOf(await database(), viewer.userId, row.id);
  const found = traits.audiences.find((a) => a.id === asked.a);
  const open = found ?? {
    id: null,
    name: '',
    where: readWhere(asked.where) ?? NOTHING_YET,
    added: [],
    removed: [],
  };
  return {
    course: courseHead(row),
    tray: tray.map((t) => t.enrolmentId),
    trayFrom: tray.at(-1)?.source ?? null,
    about: traits.about,
    people: traits.people.map((p) => ({ id: p.enrolmentId, name: p.name, section: p.section })),
    saved: await Promise.all(traits.audiences.map((a) => lineOf(traits, a))),
    open: { id: open.id, name: open.name, where: open.where, added: open.added, removed: open.removed },
    cells: await cellsOf(traits, keysIn(open.where)),
  };
}

async function lineOf(
  traits: ClassTraits,
  audience: ClassTraits['audiences'][number],
): Promise<AudienceLine> {
  const { match, unknown } = await traits.members(audience);
  return {
    id: audience.id,
    name: audience.name,
    by: audience.by,
    sentence: selectionSentence(audience.where, traits.about),
    match: match.length,
    unknown: unknown.length,
    faults: faultsIn(audience.where, traits.about),
  };
}

async function cellsOf(traits: ClassTraits, keys: readonly string[]): Promise<Record<string, TraitCells>> {
  const found: Record<string, TraitCells> = {};
  for (const key of keys) found[key] = await traits.cells(key);
  return found;
}

/** The cells of some traits of the active students of a course, in the order of the builder. */
export async function traitCells(
  viewer: Viewer,
  code: string,
  keys: readonly string[],
): Promise<Record<string, TraitCells>> {
  const row = await ensureEvaluated(await requireCourse(viewer, 'look', code));
  return cellsOf(await classTraits(await snapshotOf(row)), keys);
}
