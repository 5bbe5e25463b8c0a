import { EVENT_KINDS } from '../course/kinds';
import { type FileKind } from '../course/records';
import { ACTIVITY_KINDS, ENROLMENT_STATUSES } from '../course/kinds';
import { ATTENDANCE, REQUIREMENT_KINDS } from '../course/kinds';

export interface ColumnGuide {
  readonly name: string;
  readonly required: boolean;
  readonly means: string;
}

const column = (name: string, required: boolean, means: string): ColumnGuide => ({ name, required, means });

/** The columns of each course file in words: what the import page and the README say. */
export const FILE_GUIDE: Readonly<Record<FileKind, readonly ColumnGuide[]>> = {
  outcomes: [
    column('outcome_id', true, 'your own id'),
    column('title', true, 'what is to be learnt'),
    column('prerequisites', false, 'ids of prerequisite outcomes, separated by |'),
    column('part_of', false, 'id of the outcome that it is a part of'),
  ],
  activities: [
    column('activity_id', true, 'your own id'),
    column('title', true, 'as students know it'),
    column('kind', true, ACTIVITY_KINDS.join(', ')),
    column('category', true, 'may be empty for pages, videos and articles'),
    column('points', true, 'the maximum; empty if ungraded'),
    column('due', true, 'instant with zone; empty for no due date'),
    column('category_weight', false, 'the same on every line of a category'),
    column('drop_lowest', false, 'how many of the lowest scores are dropped'),
    column('opens', false, 'instant with zone'),
    column('closes', false, 'instant with zone, from which nothing can be handed in any more'),
    column('estimated_minutes', false, 'for study plans; 30 if empty'),
    column('attempts_allowed', false, 'how often it may be handed in; empty for as often as one likes'),
    column('outcomes', false, 'ids of the outcomes covered, separated by |'),
  ],
  items: [
    column('activity_id', true, 'the quiz or exam'),
    column('item_id', true, 'as the answers name it'),
    column('key', true, 'right answers, separated by |; empty if nobody has said'),
    column('stem', false, 'what is asked'),
    column('options', false, 'answers to choose from, like A=ebb|B=flood'),
    column('explanation', false, 'why the key is right; students see it once the assignment is closed'),
  ],
  roster: [
    column('student_id', true, 'the institution’s id'),
    column('given_name', true, ''),
    column('family_name', true, ''),
    column('email', false, 'where messages go'),
    column('section', false, 'made if there is none by that name'),
    column('status', false, `${ENROLMENT_STATUSES.join(', ')}; active if empty`),
    column('joined', false, 'day, like 2026-09-28; what was due before is not held against the student'),
    column('left', false, 'day'),
  ],
  gradebook: [
    column('student_id', true, ''),
    column('activity_id', true, ''),
    column('submitted', true, 'instant with zone, or empty'),
    column('graded', true, 'instant with zone, or empty'),
    column('returned', true, 'instant from which the student sees the grade, or empty'),
    column('points', true, 'at most the maximum, or empty'),
    column('excused', true, 'yes or no'),
    column('own_due', false, 'the student’s own due instant, where the assignment was extended for them'),
    column('extra_attempts', false, 'attempts granted beyond what the assignment allows'),
  ],
  attempts: [
    column('student_id', true, ''),
    column('activity_id', true, ''),
    column('attempt', true, '1 for the first'),
    column('submitted', true, 'instant with zone'),
    column('points', true, 'at most the maximum, or empty'),
  ],
  attendance: [
    column('student_id', true, ''),
    column('day', true, 'day, like 2026-09-28'),
    column('attendance', true, ATTENDANCE.join(', ')),
    column('meeting', false, 'tells several meetings of a day apart'),
    column('minutes', false, 'minutes present, if the source knows'),
  ],
  referrals: [
    column('referral_id', true, 'unique in the course'),
    column('student_id', true, ''),
    column('day', true, 'day'),
    column('reason', true, 'what was reported'),
    column('outcome', false, 'what was done about it'),
  ],
  requirements: [
    column('student_id', true, ''),
    column('requirement', true, 'its name'),
    column('requirement_kind', true, REQUIREMENT_KINDS.join(', ')),
    column('needed', true, 'credits, or points of the exam, that are enough'),
    column('earned', true, 'so far; 0 if empty'),
    column('day', false, 'day of the latest entry'),
  ],
  responses: [
    column('student_id', true, ''),
    column('item_id', true, 'unique in its quiz or exam'),
    column('answer', true, 'as given; may be empty'),
    column('activity_id', false, 'the quiz or exam'),
    column('attempt', false, '1 if empty'),
    column('at', false, 'instant with zone'),
    column('score', false, 'share of what the item gives, 0 to 1'),
    column('seconds', false, 'how long it took'),
    column('hints', false, 'hints taken before the answer'),
  ],
  tests: [
    column('student', true, 'the institution’s id'),
    column('outcome', true, 'id of the outcome'),
    column('at', true, 'instant with zone'),
    column('share', true, 'share of what the test gives for it, 0 to 1'),
    column('weight', true, 'how many answers it is worth'),
  ],
  events: [
    column('event_id', true, 'unique in the course; the same id is never counted twice'),
    column('student_id', true, ''),
    column('at', true, 'instant with zone, like 2026-09-28T18:30:00Z'),
    column('kind', true, EVENT_KINDS.join(', ')),
    column('activity_id', false, 'what it was done on'),
    column('duration_s', false, 'stated seconds, if the source knows'),
  ],
};
