import * as yup from 'yup';
import { FILE_KINDS } from '../course/records';
import { FEED_KINDS } from '../feeds/feed';
import { FEED_DAYS } from '../feeds/schedule';
import type { FileShape } from '../feeds/shape';
import { maybeId, name, part, whole } from './rules';

const NO_LINK = 'Write the link with https:// before it.';

const isLink = (text: string): boolean => /^https?:\/\//i.test(text) && URL.canParse(text);

/** How files come by themselves, from where and when. */
export const feedForm = part({
  id: maybeId.defined(),
  name: name('The name', 80),
  kind: yup
    .string()
    .oneOf([...FEED_KINDS])
    .required(),
  /** Where it is fetched from; empty for what is brought. */
  link: yup
    .string()
    .defined()
    .max(2000, 'The link is longer than 2,000 characters.')
    .when('kind', {
      is: 'link',
      then: (link) => link.test('link', NO_LINK, (text) => isLink((text ?? '').trim())),
    }),
  days: yup
    .string()
    .oneOf([...FEED_DAYS])
    .required(),
  minute: whole('The time', 0, 24 * 60 - 1),
});
export type FeedForm = yup.InferType<typeof feedForm>;

const count = () => yup.number().integer().min(0).required();
const shape = part({
  parts: yup
    .array(
      part({
        kind: yup
          .string()
          .oneOf([...FILE_KINDS, 'statements'])
          .required(),
        columns: yup.array(yup.string().defined()).required(),
        rows: count(),
        astray: count(),
        known: count(),
      }),
    )
    .required(),
});
/** Reads the shape of a file as it is kept; null for none. */
export const readShape = (value: unknown): FileShape | null =>
  value == null ? null : (shape.validateSync(value, { strict: true }) as FileShape);

const marks = yup
  .array(part({ name: yup.string().required(), size: count(), changed: yup.number().required() }))
  .required();
/** Files of a folder that were taken, by what tells them from newer ones of the same name. */
export type FileMark = yup.InferType<typeof marks>[number];
export const readMarks = (value: unknown): readonly FileMark[] => marks.validateSync(value, { strict: true });

const counts = part({ added: count(), changed: count(), waiting: count(), rejected: count() });
export type FeedCounts = yup.InferType<typeof counts>;
export const readFeedCounts = (value: unknown): FeedCounts | null =>
  value == null ? null : counts.validateSync(value, { strict: true });

const reasons = yup.array(yup.string().required()).required();
/** Reads why a file is looked at first. */
export const readReasons = (value: unknown): readonly string[] =>
  reasons.validateSync(value, { strict: true });

const looked = part({ came: count() });
/** Reads what a look for files found. */
export const readLooked = (value: unknown): { readonly came: number } =>
  looked.validateSync(value, { strict: true });
