import { personOf } from '@/server/xapi/known';
import { agentOf, onlyThese } from '@/server/xapi/parameters';
import { resource } from '../speak';

export const dynamic = 'force-dynamic';

/** What is known of an agent, as a person (part three, 2.4). */
export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = resource({
  GET: async ({ sender, query }) => {
    onlyThese(query, ['agent']);
    return Response.json(await personOf(sender.courseId, agentOf(query)));
  },
});
