'use client';
import { createContext } from 'react';

/** The students of the list that a link stands in, in its order; null where the links on the page are the list. */
export const ListOrder = createContext<(() => readonly number[]) | null>(null);
