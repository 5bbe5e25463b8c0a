/** Builds the application, unless the build is newer than every source. */
export function build(): void;
