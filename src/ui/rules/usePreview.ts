'use client';
import { useEffect, useState } from 'react';
import { indicatorPreviewAction } from '@/actions/course';
import type { FlagKind } from '@/core/flags/indicators';
import type { SettingsForm } from '@/core/forms/settings';
import type { IndicatorPreview } from '@/core/views/indicators';

const AFTER_MS = 350;

type Found = ReadonlyMap<FlagKind, IndicatorPreview>;
const byKind = (list: readonly IndicatorPreview[]): Found => new Map(list.map((p) => [p.kind, p]));

/**
 * Whom the saved thresholds find, and whom those that are typed would find, a moment after somebody stops typing. What
 * cannot be asked for, as while a number is half typed, leaves what was there.
 *
 * @param asks whether the viewer may see whom they find
 */
export function usePreview(code: string, saved: SettingsForm, typed: SettingsForm, asks: boolean) {
  const [before, setBefore] = useState<Found | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const savedText = JSON.stringify(saved);
  const typedText = JSON.stringify(typed);
  useEffect(() => {
    if (!asks) return;
    let gone = false;
    const ask = async (text: string, set: (found: Found) => void) => {
      const outcome = await indicatorPreviewAction({
        code,
        settings: JSON.parse(text) as SettingsForm,
      }).catch(() => null);
      if (!gone && outcome?.ok) set(byKind(outcome.value));
    };
    const timer = setTimeout(
      () => void ask(typedText, typedText === savedText ? both(setBefore, setFound) : setFound),
      AFTER_MS,
    );
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [asks, code, savedText, typedText]);
  return { before, found };
}

const both =
  <T>(one: (value: T) => void, two: (value: T) => void) =>
  (value: T) => {
    one(value);
    two(value);
  };
