import { eq } from 'drizzle-orm';
import type { Changes } from '@/core/formats/classify';
import { FILE_KINDS } from '@/core/course/records';
import type { Instant } from '@/core/units';
import type { FileCounts } from '@/core/views/intake';
import type { Access } from '@/data/database';
import { imports } from '@/data/schema';
import type { CourseModel } from '@/data/queries/courseModel';
import type { Progress } from '../jobs/progress';
import { keepChanges, keepMade, keepWaiting } from './keep';
import type { ImportPlan } from './plan';
import type { CourseFiles, ReadAbout } from './readFiles';
import type { readUploads } from './readUploads';

/** Where an import goes. */
export interface Target extends Pick<ReadAbout, 'code' | 'zone' | 'saved' | 'known'> {
  /** Its id; a course that is not there yet is made, in the transaction given. */
  readonly make: (tx: Access) => Promise<number>;
  /** Of a course that is made for the import: how it is hidden until the import is in, and made one that is there. */
  readonly isNew?: {
    readonly hide: (tx: Access, courseId: number, importId: number) => Promise<void>;
    readonly show: (tx: Access, courseId: number) => Promise<void>;
  };
}

/** An import whose files are read. */
export interface Importing {
  readonly target: Target;
  readonly read: Awaited<ReturnType<typeof readUploads>>;
  readonly userId: string | null;
  readonly at: Instant;
  readonly jobId: string | null;
  readonly progress: Progress;
  readonly stillMine: (tx: Access) => Promise<void>;
}

export interface Imported {
  readonly courseId: number;
  readonly counts: FileCounts[];
}

/** The planned changes with their files, in the order in which they are read. */
export function planned(plan: ImportPlan, files: CourseFiles) {
  return FILE_KINDS.flatMap((kind) => {
    const changes: Changes<unknown> | undefined = plan[kind];
    const file = files[kind];
    return changes && file ? [{ kind, file, changes }] : [];
  });
}

/** Keeps what an import needs to be taken back, and the rows of people nobody knows yet. */
export async function keepPlan(
  tx: Access,
  importId: number,
  model: CourseModel,
  plan: ImportPlan,
  files: CourseFiles,
  at: Instant,
): Promise<void> {
  await keepChanges(tx, importId, plan);
  await keepMade(tx, importId, model, plan);
  await keepWaiting(tx, model.row.id, importId, plan, at, files.gradebook?.absent ?? []);
}

/** Notes how many rows of each file an import brought. */
export const noteCounts = async (
  { orm }: Access,
  importId: number,
  files: readonly FileCounts[],
): Promise<void> => {
  await orm
    .update(imports)
    .set({ files: [...files] })
    .where(eq(imports.id, importId));
};
