'use server';
import { revalidatePath } from 'next/cache';
import * as yup from 'yup';
import { mappingSchema } from '@/core/formats/mapping/schema';
import { commitEvery } from '@/server/intake/every';
import { commitImport, mapFile } from '@/server/intake/intake';
import { removeMapping } from '@/server/intake/mappings';
import { undoImport } from '@/server/intake/undo';
import { dropWaiting, matchByRule, matchPerson } from '@/server/intake/waiting';
import { saveSettings, settingsSchema } from '@/server/act/settings';
import { courseCode, idNumber, run } from './run';

const importInput = yup.object({ code: courseCode, id: yup.string().uuid().required() });

export async function importAction(input: yup.InferType<typeof importInput>) {
  return run(importInput, input, async (viewer, { code, id }) => {
    return commitImport(viewer, code, id);
  });
}

export async function importEveryAction(input: yup.InferType<typeof importInput>) {
  return run(importInput, input, (viewer, { code, id }) => commitEvery(viewer, code, id));
}

const mapInput = yup.object({
  code: courseCode,
  id: yup.string().uuid().required(),
  name: yup.string().max(500).required(),
  mapping: mappingSchema,
  saveAs: yup.string().max(100).nullable().defined(),
});

export async function mapFileAction(input: yup.InferType<typeof mapInput>) {
  return run(mapInput, input, (viewer, { code, id, ...told }) => mapFile(viewer, code, id, told));
}

const mappingInput = yup.object({ code: courseCode, id: idNumber });

export async function removeMappingAction(input: yup.InferType<typeof mappingInput>) {
  return run(mappingInput, input, async (viewer, { code, id }) => {
    await removeMapping(viewer, code, id);
    revalidatePath(`/c/${code}/import`);
  });
}

const saveInput = yup.object({ code: courseCode, settings: settingsSchema });

export async function saveSettingsAction(input: yup.InferType<typeof saveInput>) {
  return run(saveInput, input, async (viewer, { code, settings }) => {
    await saveSettings(viewer, code, settings);
    revalidatePath(`/c/${code}`, 'layout');
  });
}

const undoInput = yup.object({ code: courseCode, id: idNumber });

export async function undoImportAction(input: yup.InferType<typeof undoInput>) {
  return run(undoInput, input, async (viewer, { code, id }) => {
    const done = await undoImport(viewer, code, id);
    revalidatePath(`/c/${code}`, 'layout');
    return done;
  });
}

const person = yup.string().max(2500).required();
const matchInput = yup.object({ code: courseCode, person, enrolmentId: idNumber });

export async function matchPersonAction(input: yup.InferType<typeof matchInput>) {
  return run(matchInput, input, async (viewer, { code, person: who, enrolmentId }) => {
    const matched = await matchPerson(viewer, code, who, enrolmentId);
    revalidatePath(`/c/${code}`, 'layout');
    return matched;
  });
}

const ruleInput = yup.object({ code: courseCode });

export async function matchByRuleAction(input: yup.InferType<typeof ruleInput>) {
  return run(ruleInput, input, async (viewer, { code }) => {
    const rows = await matchByRule(viewer, code);
    revalidatePath(`/c/${code}`, 'layout');
    return rows;
  });
}

const dropInput = yup.object({ code: courseCode, person });

export async function dropWaitingAction(input: yup.InferType<typeof dropInput>) {
  return run(dropInput, input, async (viewer, { code, person: who }) => {
    const rows = await dropWaiting(viewer, code, who);
    revalidatePath(`/c/${code}`, 'layout');
    return rows;
  });
}
