import base from './.dependency-cruiser.cjs';

/** Rooms, the folders of a floor, are layered: no room needs, by whatever way, one that needs it. Tests may look anywhere. */
export default {
  forbidden: [
    {
      name: 'no-cycles-of-rooms',
      severity: 'error',
      scope: 'folder',
      from: { path: '^src/(core|server|ui)/[^/]+$' },
      to: { circular: true },
    },
  ],
  options: { ...base.options, exclude: { path: '(^|/)\\.next|\\.test\\.ts$' } },
};
