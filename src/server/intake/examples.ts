import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { FILE_KINDS, type FileKind } from '@/core/course/records';
import { config } from '../base/config';
import { notFound } from '../base/errors';
import { requireCourse, type Viewer } from '../access/viewer';

const fileOf = (kind: FileKind) => join(config().dataFolder, 'examples', `${kind}.csv`);

/** Kinds of which an example ships with this installation. */
export const exampleKinds = (): FileKind[] => FILE_KINDS.filter((kind) => existsSync(fileOf(kind)));

/** One example file, for whoever teaches a course. */
export async function exampleFile(
  viewer: Viewer,
  code: string,
  name: string,
): Promise<{ name: string; bytes: Buffer }> {
  await requireCourse(viewer, 'import', code);
  const kind = exampleKinds().find((k) => `${k}.csv` === name);
  if (!kind) throw notFound('example');
  return { name: `${kind}.csv`, bytes: await readFile(fileOf(kind)) };
}
