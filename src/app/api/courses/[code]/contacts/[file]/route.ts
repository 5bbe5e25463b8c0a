import { notFound } from '@/server/base/errors';
import { contactsCsv, contactsMbox, copyMail } from '@/server/export/contacts';
import { answer, download } from '../../../../answer';

/** The contacts of a course, or of `?student=`, as `contacts.csv` or `contacts.mbox`; one copy of a message as `ID.eml`. */
export async function GET(request: Request, { params }: { params: Promise<{ code: string; file: string }> }) {
  return answer(request, async (viewer) => {
    const { code, file } = await params;
    const asked = new URL(request.url).searchParams.get('student');
    if (asked != null && !/^\d{1,9}$/.test(asked)) throw notFound('student in this course');
    const student = asked == null ? null : Number(asked);
    const [, copy] = /^(\d{1,9})\.eml$/.exec(file) ?? [];
    const made =
      copy != null
        ? await copyMail(viewer, code, Number(copy))
        : file === 'contacts.csv'
          ? await contactsCsv(viewer, code, student)
          : file === 'contacts.mbox'
            ? await contactsMbox(viewer, code, student)
            : null;
    if (!made) throw notFound('file');
    return download(made.name, made.type, made.body);
  });
}
