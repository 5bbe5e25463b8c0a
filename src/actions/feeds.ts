'use server';
import * as yup from 'yup';
import { feedForm } from '@/core/forms/feed';
import { idNumber } from '@/core/forms/rules';
import {
  acceptFile,
  leaveOut,
  lookNow,
  openFeedFile,
  removeFeed,
  saveFeed,
  switchFeed,
} from '@/server/feeds/manage';
import { asks, changes, courseCode, was } from './run';

const saved = yup.object({ code: courseCode, form: feedForm, was });
export const saveFeedAction = changes(saved, (viewer, { code, form, was: opened }) =>
  saveFeed(viewer, code, form, opened),
);

const byId = yup.object({ code: courseCode, id: idNumber });
const switched = byId.shape({ on: yup.boolean().required() });
export const switchFeedAction = changes(switched, (viewer, { code, id, on }) =>
  switchFeed(viewer, code, id, on),
);
export const removeFeedAction = changes(byId, (viewer, { code, id }) => removeFeed(viewer, code, id));
export const lookNowAction = asks(byId, (viewer, { code, id }) => lookNow(viewer, code, id));
export const openFeedFileAction = asks(byId, (viewer, { code, id }) => openFeedFile(viewer, code, id));
export const leaveOutAction = changes(byId, (viewer, { code, id }) => leaveOut(viewer, code, id));
export const acceptFileAction = changes(byId, (viewer, { code, id }) => acceptFile(viewer, code, id));
