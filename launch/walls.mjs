// Checks the walls of the house (docs/architecture.md): the rules of dependency-cruiser.config.cjs, and that no folder
// imports in a circle. Prints what is wrong; exit 1 then. `node launch/walls.mjs [FOLDER]`, the folder being this one
// when it is not said.
import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { cruise } from 'dependency-cruiser';

const home = join(dirname(fileURLToPath(import.meta.url)), '..');
const config = createRequire(import.meta.url)(join(home, 'dependency-cruiser.config.cjs'));
process.chdir(process.argv[2] ?? home);

const places = ['packages', 'apps', 'launch'].filter((place) => existsSync(place));
const { output } = await cruise(
  places,
  {
    ...config.options,
    ruleSet: { forbidden: config.forbidden },
    validate: true,
    outputType: 'json',
  },
  // What SvelteKit calls the library of the web application.
  { alias: { $lib: join(home, 'apps/web/src/lib') } },
);
const { modules, summary } = JSON.parse(output);

const isTest = (path) => /\.test\.ts$|\/test[A-Z]\w*\.ts$/.test(path);

/**
 * Of every two folders that stand side by side, which imports from the other: a map from folder to its neighbours. A
 * folder and those inside it are one thing.
 */
const edges = new Map();
for (const { source, dependencies } of modules) {
  if (isTest(source)) continue;
  for (const { resolved } of dependencies) {
    const [from, to] = [dirname(source).split('/'), dirname(resolved).split('/')];
    const shared = from.findIndex((part, i) => part !== to[i]);
    if (
      shared < 0 ||
      shared >= to.length ||
      resolved.includes('node_modules') ||
      !modules.some((m) => m.source === resolved)
    )
      continue;
    const [a, b] = [from, to].map((parts) => parts.slice(0, shared + 1).join('/'));
    const imports = edges.get(a) ?? new Map();
    edges.set(a, imports.set(b, [...(imports.get(b) ?? []), `${source} → ${resolved}`]));
  }
}

/** The way from one folder back to itself, if there is one. */
function circleFrom(start) {
  const seen = new Set();
  const walk = (folder, way) => {
    for (const next of edges.get(folder)?.keys() ?? []) {
      if (next === start) return [...way, next];
      if (seen.has(next)) continue;
      seen.add(next);
      const found = walk(next, [...way, next]);
      if (found) return found;
    }
    return undefined;
  };
  return walk(start, [start]);
}

const said = new Set();
const circles = [...edges.keys()].flatMap((folder) => {
  const circle = circleFrom(folder);
  const key = circle && [...new Set(circle)].sort().join(' ');
  if (!circle || said.has(key)) return [];
  said.add(key);
  const by = circle.slice(1).map((next, i) => `      ${edges.get(circle[i]).get(next)[0]}`);
  return [`  folders import in a circle: ${circle.join(' → ')}\n${by.join('\n')}`];
});
const wrong = [
  ...summary.violations.map(({ rule, from, to }) => `  ${rule.name}: ${from} → ${to}`),
  ...circles,
];
console.log(wrong.join('\n') || `The walls stand: ${modules.length} files.`);
process.exitCode = wrong.length > 0 ? 1 : 0;
