import { headers } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import { connection } from 'next/server';
import { cache } from 'react';
import { UseCaseError } from '@/server/base/errors';
import { reportFailure } from '@/server/base/failure';
import { requireCourse, requireViewer, type Viewer } from '@/server/access/viewer';

/** Who asks, looked up once a request however many parts of the page ask. */
const viewerOfRequest = cache(async () => requireViewer(await headers()));

/**
 * Runs a page's use case for whoever is signed in. Signed out goes to the sign-in; what is not the viewer's and what
 * does not exist look alike.
 */
export async function page<T>(task: (viewer: Viewer) => Promise<T>): Promise<T> {
  await connection();
  try {
    return await task(await viewerOfRequest());
  } catch (error) {
    if (!(error instanceof UseCaseError)) {
      // The framework logs what is thrown here; a failed query names its values, which are about students.
      reportFailure('page', error);
      throw new Error('The page could not be made.');
    }
    if (error.refusal === 'signed out') redirect('/sign-in');
    notFound();
  }
}

/** The course that a page looks at, likewise. */
export const courseOfRequest = cache((code: string) =>
  page(async (viewer) => ({ viewer, course: await requireCourse(viewer, 'look', code) })),
);
