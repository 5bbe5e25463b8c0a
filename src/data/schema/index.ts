export * from './acts';
export * from './auth';
export * from './courses';
export * from './derived';
export * from './people';
export * from './records';
export * from './staff';
