const KEY = 'student-list';

/** The list of students one came from, in its order, so that the brief can go on to the next of it. */
export interface StudentList {
  readonly code: string;
  readonly from: string;
  readonly ids: readonly number[];
}

/** Keeps the order of the students whose links stand on the page, or of those given. */
export function rememberList(code: string, from: string, ids?: readonly number[]): void {
  const found =
    ids ??
    [...document.querySelectorAll<HTMLElement>('[data-student]')].map((e) => Number(e.dataset.student));
  const list: StudentList = { code, from, ids: [...new Set(found)] };
  try {
    sessionStorage.setItem(KEY, JSON.stringify(list));
  } catch {
    // Without storage there is no next and previous; everything else works.
  }
}

/** The list that was remembered for this course; null if there is none, or it cannot be read. */
export function rememberedList(code: string): StudentList | null {
  try {
    const found: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? 'null');
    if (!found || typeof found !== 'object' || !('code' in found) || found.code !== code) return null;
    if (!('from' in found) || typeof found.from !== 'string') return null;
    if (!('ids' in found) || !Array.isArray(found.ids)) return null;
    return { code, from: found.from, ids: found.ids.filter((id) => typeof id === 'number') };
  } catch {
    return null;
  }
}
