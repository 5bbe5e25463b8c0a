import { eq } from 'drizzle-orm';
import * as yup from 'yup';
import type { ItemRecord } from '@/core/course/records';
import { written } from '@/core/formats/classify';
import { sameFields } from '@/core/formats/sameRecord';
import { keepUnsaid, ITEM_FIELDS } from '@/core/formats/unsaid';
import { withValue } from '@/core/formats/table';
import { sameKeys } from '@/core/items/treatment';
import type { Access } from '@/data/database';
import type { CourseModel } from '@/data/queries/courseModel';
import type { FileIds } from '@/data/queries/fileIds';
import { activities, items } from '@/data/schema';
import { deleteMany, upsertMany } from '@/data/write/bulk';
import { sort } from '../sort';
import { maybeText, textField, textFields } from './fields';
import { keyText, type IntakeKind } from './kind';

type ItemRow = typeof items.$inferSelect;

const keyOf = (i: ItemRecord): string => keyText(i.activity, i.item);

async function rowsOf({ orm }: Access, course: CourseModel): Promise<ItemRow[]> {
  const rows = await orm
    .select({ item: items })
    .from(items)
    .innerJoin(activities, eq(activities.id, items.activityId))
    .where(eq(activities.courseId, course.row.id));
  return rows.map((r) => r.item);
}

/** The items of a course as the files write them: with the key that they came with, whatever it was changed to here. */
async function storedItems(access: Access, course: CourseModel): Promise<Map<string, ItemRecord>> {
  const activityOf = new Map(course.activities.map((a) => [a.id, a.externalId]));
  return new Map(
    (await rowsOf(access, course)).map((row) => {
      const record: ItemRecord = {
        activity: activityOf.get(row.activityId) ?? '',
        item: row.item,
        stem: row.stem,
        // In the order of a file's records: the database keeps its own.
        options: row.options.map(({ option, text }) => ({ option, text })),
        keys: row.keysCame ?? [],
        explanation: row.explanation,
      };
      return [keyOf(record), record];
    }),
  );
}

/** Writes items; a key that was changed here stays changed, whatever it came with. */
async function writeItems(
  access: Access,
  course: CourseModel,
  ids: FileIds,
  records: readonly ItemRecord[],
): Promise<void> {
  const known = new Map((await rowsOf(access, course)).map((r) => [keyText(r.activityId, r.item), r]));
  await upsertMany(
    access,
    items,
    [items.activityId, items.item],
    records.map(({ activity, item, keys, options, stem, explanation }) => {
      const activityId = ids.activityOf.get(activity)!;
      const before = known.get(keyText(activityId, item));
      const keysCame = keys.length === 0 ? null : [...keys];
      const changedHere = before != null && !sameKeys(before.keys, before.keysCame);
      return {
        activityId,
        item,
        stem,
        options: [...options],
        explanation,
        keysCame,
        keys: changedHere ? before.keys : keysCame,
      };
    }),
  );
}

/** The items of assignments, with what is asked and what is right. */
export const itemsKind: IntakeKind<'items'> = {
  keyOf,
  schema: yup.object({
    activity: textField(),
    item: textField(),
    stem: maybeText(),
    options: yup
      .array(yup.object({ option: textField(), text: yup.string().defined() }).required())
      .required(),
    keys: textFields(),
    explanation: maybeText(),
  }),
  stored: (access, course) => storedItems(access, course),
  plan: async (file, { access, course, maxima }) => {
    const existing = await storedItems(access, course);
    return sort(
      file.rows.map((row) =>
        withValue(row, keepUnsaid(row.value, existing.get(keyOf(row.value)), file.absent, ITEM_FIELDS)),
      ),
      file.rejected,
      {
        keyOf,
        keyField: 'item_id',
        existing,
        same: sameFields,
        objection: (i) =>
          maxima.has(i.activity)
            ? null
            : { field: 'activity_id', reason: `there is no activity “${i.activity}”` },
        onDifference: 'change',
      },
    );
  },
  write: (access, { course, ids }, changes) => writeItems(access, course, ids, written(changes)),
  remove: async (access, { ids }, records) => {
    await deleteMany(
      access,
      items,
      [items.activityId, items.item],
      records.map((r) => ({ activityId: ids.activityOf.get(r.activity)!, item: r.item })),
    );
    return 0;
  },
};
