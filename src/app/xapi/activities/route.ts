import { activityOf } from '@/server/xapi/known';
import { activityIn, onlyThese } from '@/server/xapi/parameters';
import { resource } from '../speak';

export const dynamic = 'force-dynamic';

/** What is known of an activity (part three, 2.5). */
export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = resource({
  GET: async ({ sender, query }) => {
    onlyThese(query, ['activityId']);
    return Response.json(await activityOf(sender.courseId, activityIn(query)));
  },
});
