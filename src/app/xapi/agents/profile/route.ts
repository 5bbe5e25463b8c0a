import { agentOf } from '@/server/xapi/parameters';
import { documentRoutes } from '../../documentRoutes';

export const dynamic = 'force-dynamic';

/** What a client keeps of an agent (part three, 2.6). */
export const { GET, PUT, POST, DELETE, HEAD, PATCH, OPTIONS } = documentRoutes({
  id: 'profileId',
  by: ['agent'],
  clears: false,
  shelf: ({ sender, query }) => ({
    courseId: sender.courseId,
    kind: 'agent profile',
    activity: '',
    agent: agentOf(query).key,
    registration: '',
  }),
});
