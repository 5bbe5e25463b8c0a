import { decodeText } from '@/core/formats/csv';
import {
  courseOf,
  readOneRoster,
  type OneRosterPackage,
  type RosteredCourse,
} from '@/core/formats/oneroster/read';
import { no, ok, type Result } from '@/core/result';
import type { FileFault } from '@/core/views/intake';
import { looksLikeZip, unzip } from '../exchange/zip';
import { LEDGER_KINDS } from './ledgers';
import type { UploadedFile } from './upload';

/** The course that files are read for: its code picks it out of a package of several. */
export interface ReadFor {
  readonly code: string;
  readonly zone: string;
}

export interface Unpacked {
  /** Files that stand for themselves. */
  readonly files: readonly UploadedFile[];
  readonly packages: readonly { readonly name: string; readonly course: RosteredCourse }[];
  readonly faults: readonly FileFault[];
}

/** Files of our own that may go beside a OneRoster package. */
const BESIDE = ['outcomes', ...LEDGER_KINDS, 'events'].map((kind) => `${kind}.csv`);

/** Unpacks archives, and cuts OneRoster packages to the course; other files stay as they are. */
export function unpack(uploads: readonly UploadedFile[], about: ReadFor): Unpacked {
  const files: UploadedFile[] = [];
  const packages: { name: string; course: RosteredCourse }[] = [];
  const faults: FileFault[] = [];
  const loose = new Map(uploads.filter((u) => !looksLikeZip(u.bytes)).map((u) => [u.name, u.bytes]));
  const take = (name: string, found: ReadonlyMap<string, Uint8Array>) => {
    const read = packageOf(found);
    const course = read.ok ? pick(read.value, about) : read;
    if (!course.ok) {
      faults.push({ name, reason: course.reason });
      return;
    }
    packages.push({ name, course: course.value });
    for (const beside of BESIDE) {
      const bytes = found.get(beside);
      if (bytes) files.push({ name: beside, bytes });
    }
  };
  // The files of a package may come one by one, as a folder.
  if (loose.has('manifest.csv')) take('OneRoster files', loose);
  else for (const [name, bytes] of loose) files.push({ name, bytes });
  for (const { name, bytes } of uploads) {
    if (!looksLikeZip(bytes)) continue;
    const found = unzip(bytes);
    if (!found.ok) faults.push({ name, reason: found.reason });
    else if (found.value.has('manifest.csv')) take(name, found.value);
    else for (const [inner, content] of found.value) files.push({ name: inner, bytes: content });
  }
  return { files, packages, faults };
}

/** The OneRoster package among unpacked files. */
export function packageOf(found: ReadonlyMap<string, Uint8Array>): Result<OneRosterPackage> {
  const texts = new Map<string, string>();
  for (const [name, bytes] of found) {
    if (!name.endsWith('.csv')) continue;
    const text = decodeText(bytes);
    if (!text.ok) return no(`${name}: ${text.reason}`);
    texts.set(name, text.value);
  }
  return readOneRoster(texts);
}

function pick(pkg: OneRosterPackage, { code, zone }: ReadFor): Result<RosteredCourse> {
  const course =
    pkg.courses.find((c) => c.code === code) ?? (pkg.courses.length === 1 ? pkg.courses[0] : null);
  if (course) return ok(courseOf(pkg, course, zone));
  const names = pkg.courses.map((c) => c.code).slice(0, 10);
  return no(
    names.length === 0
      ? 'courses.csv: there is no course in it'
      : `courses.csv: none of its courses has the code ${code}; they are ${names.join(', ')}`,
  );
}
