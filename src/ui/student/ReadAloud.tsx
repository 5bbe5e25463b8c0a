'use client';
import { useState } from 'react';
import { Button } from '../parts/Button';

/** Reads a text aloud with the voice of the browser; nothing where it has none. */
export function ReadAloud({ text, what }: { readonly text: string; readonly what: string }) {
  const [speaking, setSpeaking] = useState(false);
  if (typeof window === 'undefined' || !('speechSynthesis' in window)) return null;
  const speak = () => {
    const { speechSynthesis: voice } = window;
    voice.cancel();
    if (speaking) return setSpeaking(false);
    const utterance = new SpeechSynthesisUtterance(text);
    utterance.lang = document.documentElement.lang || 'en';
    utterance.onend = utterance.onerror = () => setSpeaking(false);
    setSpeaking(true);
    voice.speak(utterance);
  };
  return (
    <Button small look="quiet" aria-pressed={speaking} aria-label={`Read ${what} aloud`} onClick={speak}>
      {speaking ? 'Stop reading' : 'Read aloud'}
    </Button>
  );
}
