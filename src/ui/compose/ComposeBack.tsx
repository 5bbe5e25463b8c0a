'use client';
import dynamic from 'next/dynamic';
import { Loading } from '../parts/Loading';

/** The page that composes, with what was written before it was called back: only the browser has that. */
export const ComposeBack = dynamic(() => import('./ComposeAgain'), {
  ssr: false,
  loading: () => <Loading />,
});
