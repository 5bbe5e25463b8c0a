import {
  clearShelf,
  documentIds,
  documentOf,
  namesTag,
  removeDocument,
  storeDocument,
  type Shelf,
} from '@/server/xapi/documents';
import { documentIdIn, onlyThese, sinceIn } from '@/server/xapi/parameters';
import { StatementConflict } from '@/server/xapi/store';
import { resource, type Asked } from './speak';

/** How a resource of documents is asked: by which parameters, and for which shelf. */
export interface DocumentResource {
  /** Name of the parameter that holds a document's id. */
  readonly id: 'stateId' | 'profileId';
  readonly by: readonly string[];
  readonly shelf: (asked: Asked) => Shelf;
  /** Whether all documents of a shelf can be taken away at once. */
  readonly clears: boolean;
}

const conditionsOf = (asked: Asked) => ({
  ifMatch: asked.header('if-match'),
  ifNoneMatch: asked.header('if-none-match'),
});

/** The handlers of a resource of documents (part three, 2.2 to 2.7): one by its id, or the ids of several. */
export function documentRoutes({ id: parameter, by, shelf, clears }: DocumentResource) {
  const meant = (asked: Asked, more: readonly string[] = []) => {
    onlyThese(asked.query, [parameter, ...by, ...more]);
    return { on: shelf(asked), id: documentIdIn(asked.query, parameter) };
  };
  const one = (asked: Asked) => {
    const { on, id } = meant(asked);
    if (id == null) throw new StatementConflict(400, `${parameter} is missing.`);
    return { on, id };
  };
  const store = (how: 'PUT' | 'POST') => async (asked: Asked) => {
    const { on, id } = one(asked);
    const contentType = asked.header('content-type') ?? 'application/octet-stream';
    if (contentType.length > 300) throw new StatementConflict(400, 'The content type is too long.');
    const content = await asked.body();
    await storeDocument(on, id, { contentType, content }, how, conditionsOf(asked));
    return new Response(null, { status: 204 });
  };
  return resource({
    GET: async (asked) => {
      const { on, id } = meant(asked, ['since']);
      if (id == null) return Response.json(await documentIds(on, sinceIn(asked.query)));
      if (asked.query.has('since')) throw new StatementConflict(400, `since goes without ${parameter}.`);
      const found = await documentOf(on, id);
      if (!found) return Response.json({ message: 'There is no such document.' }, { status: 404 });
      const { etag, updated, contentType, content } = found;
      const headers = { etag, 'last-modified': updated.toUTCString() };
      const held = asked.header('if-none-match');
      if (held && namesTag(held, etag)) return new Response(null, { status: 304, headers });
      return new Response(Buffer.from(content), { headers: { ...headers, 'content-type': contentType } });
    },
    PUT: store('PUT'),
    POST: store('POST'),
    DELETE: async (asked) => {
      const { on, id } = clears ? meant(asked) : one(asked);
      if (id == null) await clearShelf(on);
      else await removeDocument(on, id, conditionsOf(asked));
      return new Response(null, { status: 204 });
    },
  });
}
