import { eq } from 'drizzle-orm';
import { persons } from '@/data/schema';
import { requireStudent, type Viewer } from '../access/viewer';
import { database } from '../base/database';

/** Keeps whether the viewer wants messages as e-mail too; they are in the application whatever they choose. */
export async function setMailCopies(viewer: Viewer, on: boolean): Promise<void> {
  const personId = requireStudent(viewer);
  const { orm } = await database();
  await orm.update(persons).set({ mailCopies: on }).where(eq(persons.id, personId));
}
