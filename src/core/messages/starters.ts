import type { About } from '../acts/pick';
import { docOf, type MessageDoc } from './doc';

interface Starter {
  readonly subject: string;
  readonly body: string;
}

const close = '\n\n{instructor}';
const hello = 'Hello {first name | there},\n\n';

/** A text to begin with, by what the recipients were selected for. */
const STARTERS: Readonly<Record<About, Starter>> = {
  'not seen': {
    subject: 'We have missed you in {course}',
    body: `${hello}It has been {days since last login | a while} since you were last in {course}. That happens; what matters is how we pick it up.\n\nA good place to start again: {next step | this week’s page}.\n\nIs anything in the way? A short answer to this message is enough, and we will find a time to talk.${close}`,
  },
  behind: {
    subject: 'What is still open in {course}',
    body: `${hello}These are still open for you: {what is missing | nothing at the moment}.\n\nYou do not have to do it all at once. Start with: {next step | the oldest one}.\n\nIf a date does not work for you, write to me before it and we will set another.${close}`,
  },
  'low standing': {
    subject: 'Getting {course} back on course',
    body: `${hello}Your standing in {course} is {standing | not settled yet} at the moment. There is time to change that, and I would like to help. What would help most right now is {outcome | going over the last exercise}.\n\nFirst step: {next step | come and see me after class}.${close}`,
  },
  slipping: {
    subject: 'How are things in {course}?',
    body: `${hello}Your latest results were lower than your earlier ones. Your standing is now {standing | not settled yet}.\n\nLet us turn it early. I suggest: {next step | going over the last exercise with me}.${close}`,
  },
  'low time': {
    subject: 'A small start in {course}',
    body: `${hello}A little time on {course} each week makes the exercises much easier. Here is something short to begin with: {next step | this week’s page}.\n\nIf the hours are the difficulty, tell me when you can study and we will plan around it.${close}`,
  },
  'effort without progress': {
    subject: 'Making your time in {course} count',
    body: `${hello}I can see that you put time into {course}, and I would like that to show in your results. Doing more of the same is not the answer; a different way in may be.\n\nTry this first: {next step | bring your last exercise to me}. Then let us look at it together.${close}`,
  },
  'on time': {
    subject: 'Everything in on time: well done',
    body: `${hello}You have handed in everything in {course} on time, and nothing is missing. Thank you for that. Keep it up.${close}`,
  },
  improved: {
    subject: 'Your results in {course} have gone up',
    body: `${hello}Your latest results in {course} are better than your earlier ones; your standing is now {standing | higher than before}. Whatever you changed, it is paying off. Well done.${close}`,
  },
  'missing assignment': {
    subject: '{assignment | An assignment} is still open',
    body: `${hello}I do not have your {assignment | assignment} yet. If it is nearly done, hand it in as it is: something is better than nothing.\n\nIf something is in the way, answer this message and we will find a date that works.${close}`,
  },
  'late assignment': {
    subject: 'Thank you for {assignment | your assignment}',
    body: `${hello}Your {assignment | assignment} came in after the due date. I am glad that it came. If the dates are hard to keep, tell me before the next one and we will find a way.${close}`,
  },
  'low score': {
    subject: 'Your result in {assignment | your last assignment}',
    body: `${hello}You scored {score | lower than I had hoped} in {assignment | your last assignment}. It was about {outcome | what we did in class}, and we will need that again.\n\nA good first step: {next step | come and see me after class}. If you would like to go over it together, answer this message.${close}`,
  },
  'high score': {
    subject: 'Well done in {assignment | your last assignment}',
    body: `${hello}You scored {score | very well} in {assignment | your last assignment}. That is good work, and I wanted to say so.${close}`,
  },
  'due soon': {
    subject: '{assignment | An assignment} is due soon',
    body: `${hello}{assignment | An assignment} is due {due | soon}. If you have not begun, a first half hour now makes the rest easier.\n\nIf the date does not work for you, write to me before it.${close}`,
  },
  'back again': {
    subject: 'Good to see you back in {course}',
    body: `${hello}It is good to see you back in {course}. You do not have to catch up on everything at once. A good place to start: {next step | this week’s page}.\n\nIf there is anything I should know, a short answer is enough.${close}`,
  },
  other: {
    subject: 'A word about {course}',
    body: `${hello}I have been looking at how {course} is going for you. Here is what I suggest as a next step: {next step | have a look at this week’s page}.\n\nIf something is in the way, tell me and we will find a plan that works.${close}`,
  },
};

export interface StarterText {
  readonly subject: string;
  readonly doc: MessageDoc;
}
export const starterFor = (about: About): StarterText => ({
  subject: STARTERS[about].subject,
  doc: docOf(STARTERS[about].body),
});

/** Whether what somebody was selected for asks for a plan of its own, and of which kind. */
export const focusOf = (about: About): 'missing' | 'low score' | null =>
  about === 'missing assignment' ? 'missing' : about === 'low score' ? 'low score' : null;
