/** Lets requests that came meanwhile have their turn. The embedded database works on the thread that answers them. */
export const turn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
