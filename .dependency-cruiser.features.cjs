// The features of server and web one by one, without their tests, which open the whole house: no two of them use each other.
const { options } = require('./.dependency-cruiser.cjs');
module.exports = {
  forbidden: [
    {
      name: 'no-two-features-use-each-other',
      severity: 'error',
      scope: 'folder',
      from: { path: '^(server|web/src)/[^/]+$' },
      to: { circular: true },
    },
  ],
  options: { ...options, exclude: { path: `${options.exclude.path}|\\.test\\.tsx?$|/tests/` } },
};
