import type { Selection } from '../rules/selection';

/** The builder with a condition to begin with. */
export const audienceHref = (code: string, where: Selection): string =>
  `/c/${code}/audiences?where=${encodeURIComponent(JSON.stringify(where))}`;
