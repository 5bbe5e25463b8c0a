import { activityIn, agentOf, registrationIn } from '@/server/xapi/parameters';
import { documentRoutes } from '../../documentRoutes';

export const dynamic = 'force-dynamic';

/** What a client keeps of an agent's work on an activity (part three, 2.3). */
export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = documentRoutes({
  id: 'stateId',
  by: ['activityId', 'agent', 'registration'],
  clears: true,
  shelf: ({ sender, query }) => ({
    courseId: sender.courseId,
    kind: 'state',
    activity: activityIn(query),
    agent: agentOf(query).key,
    registration: registrationIn(query),
  }),
});
