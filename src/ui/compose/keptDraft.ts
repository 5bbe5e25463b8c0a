import type { DraftForm } from '@/core/forms/message';

const nameOf = (code: string) => `ready-lantern draft ${code}`;

/** Keeps a draft for this tab of the browser. Where nothing can be kept, nothing is lost but the way back. */
export function keepDraft(code: string, draft: DraftForm): void {
  try {
    sessionStorage.setItem(nameOf(code), JSON.stringify(draft));
  } catch {
    // Full or refused.
  }
}

/** The text of the draft that was kept last; null without one. It is checked by whoever reads it. */
export function keptDraft(code: string): string | null {
  try {
    return sessionStorage.getItem(nameOf(code));
  } catch {
    return null;
  }
}
