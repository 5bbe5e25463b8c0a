'use server';
import * as yup from 'yup';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { commitEvery } from '@/server/intake/every';
import { commitImport, mapFile } from '@/server/intake/intake';
import { removeMapping } from '@/server/intake/mappings';
import { undoImport } from '@/server/intake/undo';
import { dropWaiting, matchByRule, matchPerson } from '@/server/intake/waiting';
import { settingsForm } from '@/core/forms/settings';
import { saveSettings } from '@/server/act/settings';
import { indicatorPreview } from '@/server/look/indicators';
import { idNumber } from '@/core/forms/rules';
import { asks, changes, courseCode, was } from './run';

const importInput = yup.object({ code: courseCode, id: yup.string().uuid().required() });

export const importAction = asks(importInput, (viewer, { code, id }) => commitImport(viewer, code, id));

export const importEveryAction = asks(importInput, (viewer, { code, id }) => commitEvery(viewer, code, id));

const mapInput = yup.object({
  code: courseCode,
  id: yup.string().uuid().required(),
  name: yup.string().max(500).required(),
  mapping: mappingSchema,
  saveAs: yup.string().max(100).nullable().defined(),
});

export const mapFileAction = asks(mapInput, (viewer, { code, id, ...told }) =>
  mapFile(viewer, code, id, told),
);

const mappingInput = yup.object({ code: courseCode, id: idNumber });

export const removeMappingAction = changes(mappingInput, (viewer, { code, id }) =>
  removeMapping(viewer, code, id),
);

const saveInput = yup.object({ code: courseCode, settings: settingsForm });

/** Whom thresholds would find that are not saved. */
export const indicatorPreviewAction = asks(saveInput, (viewer, { code, settings }) =>
  indicatorPreview(viewer, code, settings.indicators),
);

export const saveSettingsAction = changes(
  saveInput.shape({ was }),
  (viewer, { code, settings, was: opened }) => saveSettings(viewer, code, settings, opened),
);

const undoInput = yup.object({ code: courseCode, id: idNumber });

export const undoImportAction = changes(undoInput, (viewer, { code, id }) => undoImport(viewer, code, id));

const person = yup.string().max(2500).required();
const matchInput = yup.object({ code: courseCode, person, enrolmentId: idNumber });

export const matchPersonAction = changes(matchInput, (viewer, { code, person: who, enrolmentId }) =>
  matchPerson(viewer, code, who, enrolmentId),
);

const ruleInput = yup.object({ code: courseCode });

export const matchByRuleAction = changes(ruleInput, (viewer, { code }) => matchByRule(viewer, code));

const dropInput = yup.object({ code: courseCode, person });

export const dropWaitingAction = changes(dropInput, (viewer, { code, person: who }) =>
  dropWaiting(viewer, code, who),
);
