import { activityIn } from '@/server/xapi/parameters';
import { documentRoutes } from '../../documentRoutes';

export const dynamic = 'force-dynamic';

/** What a client keeps of an activity (part three, 2.7). */
export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = documentRoutes({
  id: 'profileId',
  by: ['activityId'],
  clears: false,
  shelf: ({ sender, query }) => ({
    courseId: sender.courseId,
    kind: 'activity profile',
    activity: activityIn(query),
    agent: '',
    registration: '',
  }),
});
