/** Folders in a line: of two, one knows the other and not the other way round. Tests may reach for what they check against. */
const { options } = require('./.dependency-cruiser.cjs');
const inside = { path: '^src/(core|data|server|actions)/' };

module.exports = {
  forbidden: [
    {
      name: 'no-circles-of-folders',
      severity: 'error',
      scope: 'folder',
      from: inside,
      to: { circular: true, ...inside },
    },
  ],
  options: { ...options, exclude: { path: '\\.test\\.tsx?$' } },
};
