import type { FlagKind } from '../flags/indicators';

export interface Starter {
  readonly subject: string;
  readonly body: string;
}

const close = '\n\n{instructor}';

const general: Starter = {
  subject: 'A word about {course}',
  body: `Hello {first name | there},\n\nI have been looking at how {course} is going for you. Here is what I suggest as a next step: {next step | have a look at this week’s page}.\n\nIf something is in the way, tell me and we will find a plan that works.${close}`,
};

const byReason: Record<FlagKind, Starter> = {
  'not seen': {
    subject: 'We have missed you in {course}',
    body: `Hello {first name | there},\n\nIt has been {days since last login | a while} since you were last in {course}. That happens; what matters is how we pick it up.\n\nA good place to start again: {next step | this week’s page}.\n\nIs anything in the way? A short answer to this message is enough, and we will find a time to talk.${close}`,
  },
  behind: {
    subject: 'What is still open in {course}',
    body: `Hello {first name | there},\n\nThese are still open for you: {what is missing | nothing at the moment}.\n\nYou do not have to do it all at once. Start with: {next step | the oldest one}.\n\nIf a date does not work for you, write to me before it and we will set another.${close}`,
  },
  'low standing': {
    subject: 'Getting {course} back on course',
    body: `Hello {first name | there},\n\nYour standing in {course} is {standing | not settled yet} at the moment. There is time to change that, and I would like to help.\n\nFirst step: {next step | come and see me after class}.${close}`,
  },
  slipping: {
    subject: 'How are things in {course}?',
    body: `Hello {first name | there},\n\nYour last pieces of work came out lower than your earlier ones. Your standing is now {standing | not settled yet}.\n\nLet us turn it early. I suggest: {next step | going over the last exercise with me}.${close}`,
  },
  'low time': {
    subject: 'A small start this week in {course}',
    body: `Hello {first name | there},\n\nA little time on {course} each week makes the exercises much easier. Here is something short to begin with: {next step | this week’s page}.\n\nIf the hours are the difficulty, tell me when you can work and we will plan around it.${close}`,
  },
  'effort without progress': {
    subject: 'Making your time in {course} count',
    body: `Hello {first name | there},\n\nI can see that you put time into {course}, and I would like that to show in your results. Doing more of the same is not the answer; a different way in may be.\n\nTry this first: {next step | bring your last exercise to me}. Then let us look at it together.${close}`,
  },
};

/** A text to begin with, to suit the reason for which the recipients were picked. */
export function starterFor(reason: FlagKind | null): Starter {
  return reason ? byReason[reason] : general;
}
