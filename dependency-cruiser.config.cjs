/** The walls of the house (docs/architecture.md). Arrows point downwards only. */
module.exports = {
  forbidden: [
    {
      name: 'core-stands-alone',
      comment: 'core is pure: itself and its few pure packages, no Node, no DOM, no other workspace.',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '(\\.test|/test[A-Z]\\w*)\\.ts$' },
      to: {
        pathNot: [
          '^packages/core/src',
          '^(packages/core/)?node_modules/(zod|ipaddr\\.js|papaparse|@types/papaparse|fraction\\.js|jsep|punycode|@types/punycode|saxes|xmlchars|fflate|@noble/hashes)/',
        ],
      },
    },
    {
      name: 'field-does-not-look-up',
      comment: 'field may use core and the demo cell, never the web application or the launcher.',
      severity: 'error',
      from: { path: '^packages/field' },
      to: { path: '^(apps|launch|e2e)/' },
    },
    {
      name: 'web-has-no-protocol-bytes',
      comment:
        'The web talks to the agent; protocol bytes live in core/protocols/NAME and packages/field. Of field it may see the shape of the agent interface only.',
      severity: 'error',
      from: { path: '^apps/web/src' },
      to: {
        path: [
          '^packages/core/src/protocols/[^/]+/index\\.ts$',
          '^packages/field/src(?!/agent/api\\.ts$)',
          '^launch/',
        ],
      },
    },
    {
      name: 'browser-has-no-server-code',
      comment: 'Knex, pg and ws stay in lib/server and in server routes.',
      severity: 'error',
      from: {
        path: '^apps/web/src',
        pathNot: [
          'lib/server/',
          '\\+server\\.ts$',
          '\\+(page|layout)\\.server\\.ts$',
          'hooks\\.server\\.ts$',
          'app\\.d\\.ts$',
          '\\.test\\.ts$',
        ],
      },
      to: { path: ['^node_modules/(knex|pg|ws)/', '^apps/web/src/lib/server/'] },
    },
    {
      name: 'front-doors',
      comment:
        'From outside, a package is entered by its front door (the exports map), never by a file inside.',
      severity: 'error',
      from: { pathNot: '^packages/core/' },
      to: {
        path: '^packages/core/src/',
        pathNot:
          '^packages/core/src/(index|bootp/index|describers/index|devices/index|standIns/index|protocols/[^/]+/index)\\.ts$',
      },
    },
    {
      name: 'checks-know-no-simulator',
      comment:
        'What is checked is what was planned and described: a check may not see how a simulated device acts, not even through others.',
      severity: 'error',
      from: { path: '^packages/core/src/checks/', pathNot: '\\.test\\.ts$' },
      to: { path: '^packages/core/src/(standIns/|devices/byRoles/(?!roleImage\\.ts))', reachable: true },
    },
    {
      name: 'protocols-stand-alone',
      comment: 'Nothing of one protocol is known to another one; what they share stands above them.',
      severity: 'error',
      from: { path: '^packages/(core|field)/src/protocols/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^packages/(core|field)/src/protocols/[^/]+/',
        pathNot: '^packages/(core|field)/src/protocols/$2/',
      },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'no-unresolved',
      severity: 'error',
      from: {},
      to: { couldNotResolve: true, pathNot: ['^\\$', '^\\./\\$types$', 'build/'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['\\.svelte-kit', '(^|/)(build|build-setup|dist)/'] },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['svelte', 'import', 'node', 'default', 'types'],
    },
    skipAnalysisNotInRules: true,
  },
};
