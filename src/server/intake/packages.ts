import { decodeText } from '@/core/formats/csv';
import {
  courseOf,
  readOneRoster,
  type OneRosterCourse,
  type OneRosterPackage,
  type RosteredCourse,
} from '@/core/formats/oneroster/read';
import { NOTHING_KNOWN, type KnownCourse } from '@/core/formats/oneroster/known';
import { no, ok, type Result } from '@/core/result';
import type { FileFault } from '@/core/views/intake';
import { looksLikeZip, unzip } from '../base/zip';
import { LEDGER_KINDS } from '@/core/course/records';
import type { UploadedFile } from '../staging/upload';

/** The course that files are read for: its code picks it out of a package of several. */
export interface ReadFor {
  readonly code: string;
  readonly zone: string;
}

export interface Unpacked {
  /** Files that stand for themselves. */
  readonly files: readonly UploadedFile[];
  readonly packages: readonly { readonly name: string; readonly course: RosteredCourse }[];
  /** Every course of the packages, each code once. */
  readonly courses: readonly OneRosterCourse[];
  readonly faults: readonly FileFault[];
}

/** Files of our own that may go beside a OneRoster package. */
const BESIDE = ['outcomes', ...LEDGER_KINDS, 'events'].map((kind) => `${kind}.csv`);

/** Files that came together: what an archive holds, or what came one by one. */
interface Folder {
  readonly name: string;
  readonly files: ReadonlyMap<string, Uint8Array>;
}

/** Uploads by folder, archives unpacked, with those that cannot be. */
function foldersOf(uploads: readonly UploadedFile[]): {
  readonly folders: readonly Folder[];
  readonly faults: readonly FileFault[];
} {
  const loose = new Map(uploads.filter((u) => !looksLikeZip(u.bytes)).map((u) => [u.name, u.bytes]));
  const folders: Folder[] = loose.size > 0 ? [{ name: 'OneRoster files', files: loose }] : [];
  const faults: FileFault[] = [];
  const seen = new Set<string>();
  for (const { name, bytes } of uploads) {
    if (!looksLikeZip(bytes)) {
      if (seen.has(name)) faults.push({ name, reason: 'came twice; give one of the two another name' });
      seen.add(name);
      continue;
    }
    const found = unzip(bytes);
    if (found.ok) folders.push({ name, files: found.value });
    else faults.push({ name, reason: found.reason });
  }
  return { folders, faults };
}

const isPackage = ({ files }: Folder): boolean => files.has('manifest.csv');

/** The OneRoster packages among uploads that can be read. */
export function packagesIn(uploads: readonly UploadedFile[]): Result<OneRosterPackage>[] {
  return foldersOf(uploads)
    .folders.filter(isPackage)
    .map(({ files }) => packageOf(files));
}

/** The courses of the packages among uploads, each code once. */
export function coursesIn(uploads: readonly UploadedFile[]): OneRosterCourse[] {
  const all = packagesIn(uploads).flatMap((pkg) => (pkg.ok ? pkg.value.courses : []));
  return [...new Map(all.map((course) => [course.code, course])).values()];
}

/**
 * Unpacks archives, and cuts OneRoster packages to the course; other files stay as they are.
 *
 * @param known asks what earlier packages said of the course; only if there is a package
 */
export async function unpack(
  uploads: readonly UploadedFile[],
  about: ReadFor,
  known?: () => Promise<KnownCourse>,
): Promise<Unpacked> {
  const files: UploadedFile[] = [];
  const packages: { name: string; course: RosteredCourse }[] = [];
  const { folders, faults: broken } = foldersOf(uploads);
  const faults = [...broken];
  const courses = new Map<string, OneRosterCourse>();
  const before = folders.some(isPackage) ? await known?.() : undefined;
  for (const folder of folders) {
    if (!isPackage(folder)) {
      for (const [name, bytes] of folder.files) files.push({ name, bytes });
      continue;
    }
    const read = packageOf(folder.files);
    if (read.ok) for (const course of read.value.courses) courses.set(course.code, course);
    const course = read.ok ? pick(read.value, about, before) : read;
    if (!course.ok) {
      faults.push({ name: folder.name, reason: course.reason });
      continue;
    }
    packages.push({ name: folder.name, course: course.value });
    for (const beside of BESIDE) {
      const bytes = folder.files.get(beside);
      if (bytes) files.push({ name: beside, bytes });
    }
  }
  return { files, packages, courses: [...courses.values()], faults };
}

/** The OneRoster package among unpacked files. */
function packageOf(found: ReadonlyMap<string, Uint8Array>): Result<OneRosterPackage> {
  const texts = new Map<string, string>();
  for (const [name, bytes] of found) {
    if (!name.endsWith('.csv')) continue;
    const text = decodeText(bytes);
    if (!text.ok) return no(`${name}: ${text.reason}`);
    texts.set(name, text.value);
  }
  return readOneRoster(texts);
}

/**
 * What a package says of the course of a code; a package of one course is about that, whatever its code. One that holds
 * only what changed is about the course that its source is known to mean, named again or not.
 */
export function pick(
  pkg: OneRosterPackage,
  { code, zone }: ReadFor,
  known: KnownCourse = NOTHING_KNOWN,
): Result<RosteredCourse> {
  const meant = pkg.partial.has('courses') ? known.course : null;
  const course =
    pkg.courses.find((c) => c.code === code) ??
    (meant == null ? null : (pkg.courses.find((c) => c.id === meant) ?? { id: meant, code, title: code })) ??
    (pkg.courses.length === 1 ? pkg.courses[0] : null);
  if (course) return ok(courseOf(pkg, course, zone, known));
  const names = pkg.courses.map((c) => c.code).slice(0, 10);
  return no(
    names.length === 0
      ? 'courses.csv: there is no course in it'
      : `courses.csv: none of its courses has the code ${code}; they are ${names.join(', ')}`,
  );
}
