import type { OwnCourse, StudentHome } from '@/core/views/student';
import { isOpen } from '@/core/plans/plan';
import { REVIEW_PART } from '@/core/plans/reviews';
import { classes, finger } from '../parts/classes';
import { Assignments } from '../brief/Assignments';
import { Strips } from '../brief/Strips';
import { Awake } from '../parts/Awake';
import { counted, weekdayAndTime } from '@/core/format';
import { Wordmark } from '../parts/Wordmark';
import { Nothing, Panel } from '../parts/Panel';
import { AccountLink } from '../shell/AccountLink';
import { SignOut } from '../shell/SignOut';
import { ThemeSwitch } from '../shell/ThemeSwitch';
import { AcceptCard } from './AcceptCard';
import { AgreementCard } from './AgreementCard';
import { AssignedCard } from './AssignedCard';
import { RetryCard } from './RetryCard';
import { CheckInCard } from './CheckInCard';
import { HelpCard } from './HelpCard';
import { Join } from './Join';
import { LearningCard } from './LearningCard';
import { MailCopies } from './MailCopies';
import { MeetingCard } from './MeetingCard';
import { MessageCard } from './MessageCard';
import { PlanCard } from './PlanCard';
import { StudyTimesCard } from './StudyTimesCard';
import { TalkCard } from './TalkCard';

/** A student's own home: what was written to them, their plan, what is due, and their own picture. */
export function Home({ home }: { readonly home: StudentHome }) {
  return (
    <div className="mx-auto max-w-4xl px-5 py-5">
      <div className="mb-6 flex items-center justify-between">
        <span className="flex items-center gap-2">
          <Wordmark large />
        </span>
        <span className="flex items-center">
          <ThemeSwitch />
          <AccountLink />
          <SignOut />
        </span>
      </div>
      <main className="space-y-8">
        <Awake />
        <h1 className="font-serif text-2xl leading-tight font-semibold">{greeting(home)}</h1>
        {home.courses.length === 0 ? (
          <Panel>
            <Nothing title="You are not in a course at the moment" />
          </Panel>
        ) : null}
        {home.courses.map((course) => (
          <CourseSection key={course.head.code} course={course} />
        ))}
        <MailCopies on={home.mailCopies} />
        <Join />
      </main>
    </div>
  );
}

function greeting({ givenName, courses }: StudentHome): string {
  const unread = courses.reduce((n, c) => n + c.messages.filter((m) => m.readAt == null).length, 0);
  const steps = courses.flatMap((c) => c.plans.flatMap((p) => p.steps));
  const open = steps.filter(isOpen).length;
  if (unread > 0) return `Hello ${givenName}, ${counted(unread, 'message')} for you`;
  if (open > 0)
    return `Hello ${givenName}, ${counted(open, 'step')} of your plan ${open === 1 ? 'is' : 'are'} open`;
  return `Hello ${givenName}`;
}

function CourseSection({ course }: { readonly course: OwnCourse }) {
  const { head, weeks } = course;
  const current = weeks.findLast((w) => w.own != null);
  const missing = course.open.filter((w) => w.status === 'missing');
  return (
    <section aria-label={head.title} className="space-y-4">
      <h2 className="border-line text-muted border-b pb-1">
        <span className="text-ink font-semibold">{head.title}</span> · {head.code} · week{' '}
        {Math.min(head.week, head.weeks)} of {head.weeks}
      </h2>
      {course.toAccept ? <AcceptCard course={head.code} title={head.title} /> : null}
      {course.messages.map((message) => (
        <MessageCard key={message.recipientId} course={head.code} message={message} zone={head.zone} />
      ))}
      <TalkCard course={head.code} zone={head.zone} talks={course.talks} offers={course.offers} />
      <AgreementCard agreements={course.agreements} />
      <HelpCard helpings={course.helpings} />
      {course.plans
        .filter((plan, i) => i === 0 || plan.steps.some(isOpen))
        .map((plan) => (
          <PlanCard
            key={plan.id}
            plan={plan}
            today={course.today}
            zone={head.zone}
            missing={missing.map((w) => w.id)}
            assignments={new Set(course.assignments.map((a) => a.id))}
          />
        ))}
      <AssignedCard
        assigned={course.assigned}
        reviews={hasReviews(course) ? [] : course.reviews}
        zone={head.zone}
      />
      <RetryCard retries={course.retries} />
      <StudyTimesCard
        key={JSON.stringify(course.studyTimes)}
        course={head.code}
        times={course.studyTimes}
        hasOpenPlan={course.plans.some((p) => p.steps.some(isOpen))}
      />
      <Panel className="p-5">
        <h3 className="mb-2 font-serif text-lg font-semibold">
          {course.open.length === 0
            ? 'Nothing is due in the next two weeks'
            : missing.length > 0
              ? `${counted(missing.length, 'assignment')} still open, ${course.open.length - missing.length} coming up`
              : `${counted(course.open.length, 'assignment')} coming up`}
        </h3>
        <ul className="divide-line divide-y">
          {course.open.map((work) => (
            <li key={work.id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
              <a href={`#assignment-${work.id}`} className={classes('hover:underline', finger)}>
                {work.title}
                {work.points == null ? '' : `, ${counted(work.points, 'point')}`}
              </a>
              <span className={work.status === 'missing' ? 'text-plum font-semibold' : 'text-muted'}>
                {work.status === 'missing' ? 'was due' : 'due'} {weekdayAndTime(work.due!, head.zone)}
              </span>
            </li>
          ))}
        </ul>
      </Panel>
      {course.active ? <CheckInCard course={head.code} zone={head.zone} checkIn={course.checkIn} /> : null}
      {course.meeting ? <MeetingCard meeting={course.meeting} zone={head.zone} /> : null}
      {current ? (
        <Panel className="p-5">
          <h3 className="mb-2 font-serif text-lg font-semibold">Your term so far</h3>
          <Strips
            weeks={weeks}
            currentWeek={head.week}
            usualDays="of 7 days"
            handedIn={missing.length === 0 ? 'nothing open' : `${missing.length} open`}
            trend="as of today"
          />
        </Panel>
      ) : null}
      {course.outcomes.length > 0 ? (
        <LearningCard
          outcomes={course.outcomes}
          next={course.next}
          disclosed={course.disclosed}
          readAloud={course.readAloud}
        />
      ) : null}
      <Panel className="p-5">
        <h3 className="mb-2 font-serif text-lg font-semibold">All assignments</h3>
        <Assignments list={course.assignments} zone={head.zone} />
      </Panel>
    </section>
  );
}

/** Whether a plan names what is due for review: then it need not stand on its own. */
const hasReviews = ({ plans }: OwnCourse): boolean =>
  plans.some((p) => p.steps.some((s) => s.part === REVIEW_PART && isOpen(s)));
