'use client';
import { useEffect } from 'react';

/** Says on the page’s root that this view answers: a head that is drawn may still be waiting for its script. */
export function Awake() {
  useEffect(() => {
    document.documentElement.dataset.awake = 'yes';
  }, []);
  return null;
}
