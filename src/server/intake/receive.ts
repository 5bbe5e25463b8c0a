import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { finished, pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeReadableStream } from 'node:stream/web';
import busboy from 'busboy';
import { BROKEN_TEXT, holdsBroken } from '@/core/formats/brokenText';
import { invalid, UseCaseError } from '../base/errors';
import { isDiskFull, needSpace } from '../base/failure';
import { requireCourse, type Viewer } from '../access/viewer';
import { arriving } from '../staging/staging';

/** Limits of an upload. */
export const UPLOAD_LIMITS = { files: 12, bytes: 200 * 1024 * 1024 } as const;

const tooLarge = () =>
  new UseCaseError(
    'too large',
    `Together the files may have at most ${UPLOAD_LIMITS.bytes / 1024 / 1024} MB.`,
  );

/** What comes with a request to import: a form (RFC 7578) whose files are named `files`. */
export interface Form {
  readonly contentType: string;
  /** As the request states it; null if it does not. */
  readonly length: number | null;
  readonly body: ReadableStream<Uint8Array> | null;
}

/**
 * Writes the files of a form to the disk as they come in, counted against the limits; nothing of them is held in memory.
 * Returns the id of the upload. What was cut off, or goes beyond the limits, leaves nothing behind.
 */
export async function receiveFiles(viewer: Viewer, code: string, form: Form): Promise<string> {
  const course = await requireCourse(viewer, 'import', code);
  if (form.length != null && form.length > UPLOAD_LIMITS.bytes + FRAME) throw tooLarge();
  await needSpace(form.length ?? 0);
  if (!form.body) throw invalid('Choose at least one file.');
  if (!/^multipart\/form-data\s*;/i.test(form.contentType)) throw invalid('Send the files as a form.');
  const upload = await arriving(course.id, viewer.userId);
  try {
    await writeFiles(form.contentType, form.body, upload.pathFor);
    return await upload.keep();
  } catch (error) {
    await upload.drop();
    if (error instanceof UseCaseError || isDiskFull(error)) throw error;
    throw invalid('The upload was cut off; choose the files again.');
  }
}

/** Bytes of a form around its files. */
const FRAME = 64 * 1024;

async function writeFiles(
  contentType: string,
  body: ReadableStream<Uint8Array>,
  pathFor: (name: string) => string,
): Promise<void> {
  const parser = busboy({
    headers: { 'content-type': contentType },
    // One more than may be, to know that there were more.
    limits: { files: UPLOAD_LIMITS.files + 1, fields: 10, fieldSize: 1000, parts: 40, headerPairs: 40 },
    defParamCharset: 'utf8',
  });
  let total = 0;
  let count = 0;
  const written: Promise<void>[] = [];
  parser.on('file', (field, stream, { filename }) => {
    const name = filename ?? '';
    const refuse = (error: Error) => parser.destroy(error);
    if (field !== 'files' || name === '') return void stream.resume();
    if (++count > UPLOAD_LIMITS.files)
      return refuse(invalid(`Choose at most ${UPLOAD_LIMITS.files} files at once.`));
    if (holdsBroken(name)) return refuse(invalid(`The name of a file ${BROKEN_TEXT}.`));
    stream.on('data', (chunk: Buffer) => {
      total += chunk.length;
      if (total > UPLOAD_LIMITS.bytes) refuse(tooLarge());
    });
    const file = pipeline(stream, createWriteStream(pathFor(name)));
    // A disk that is full ends the form; that the form ended is said below.
    file.catch(refuse);
    written.push(file);
  });
  const source = Readable.fromWeb(body as NodeReadableStream<Uint8Array>);
  source.pipe(parser);
  source.on('error', (error) => parser.destroy(error));
  try {
    await finished(parser);
  } catch (error) {
    // Read on without keeping anything: cut off at once, a client would not hear why.
    source.unpipe(parser);
    discard(source);
    throw error;
  } finally {
    await Promise.allSettled(written);
  }
  await Promise.all(written);
}

/** Bytes of a refused form that are still taken from the line. */
const DISCARDED = 64 * 1024 * 1024;

function discard(source: Readable): void {
  let left = DISCARDED;
  source.on('error', () => undefined);
  source.on('data', (chunk: Uint8Array) => {
    left -= chunk.length;
    if (left < 0) source.destroy();
  });
  source.resume();
}
