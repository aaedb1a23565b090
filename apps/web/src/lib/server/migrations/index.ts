import type { Knex } from 'knex';
import * as cell from './001_cell.js';
import * as layout from './002_layout.js';
import * as links from './003_links.js';
import * as lineUp from './004_line_up.js';
import * as library from './005_library.js';
import * as slots from './006_slots.js';
import * as parameters from './007_parameters.js';
import * as lights from './008_lights.js';
import * as protocols from './009_protocols.js';
import * as people from './010_people.js';
import * as limits from './011_limits.js';
import * as elements from './012_elements.js';
import * as roles from './016_roles.js';
import * as machine from './017_machine.js';
import * as acting from './018_acting.js';
import * as cellTimes from './019_cell_times.js';
import * as plannedValues from './020_planned_values.js';
import * as exchanges from './021_exchanges.js';
import * as driveTrains from './022_drive_trains.js';
import * as parameterSets from './023_parameter_sets.js';
import * as sourceNames from './015_source_names.js';
import * as times from './014_times.js';
import * as directAddresses from './013_direct_addresses.js';

const migrations: Record<string, Knex.Migration> = {
  '001_cell': cell,
  '002_layout': layout,
  '003_links': links,
  '004_line_up': lineUp,
  '005_library': library,
  '006_slots': slots,
  '007_parameters': parameters,
  '008_lights': lights,
  '009_protocols': protocols,
  '010_people': people,
  '011_limits': limits,
  '012_elements': elements,
  '013_direct_addresses': directAddresses,
  '014_times': times,
  '015_source_names': sourceNames,
  '016_roles': roles,
  '017_machine': machine,
  '018_acting': acting,
  '019_cell_times': cellTimes,
  '020_planned_values': plannedValues,
  '021_exchanges': exchanges,
  '022_drive_trains': driveTrains,
  '023_parameter_sets': parameterSets,
};

/** The migrations in their order; listed here because they are bundled, not read from a folder. */
export const migrationSource: Knex.MigrationSource<string> = {
  getMigrations: () => Promise.resolve(Object.keys(migrations)),
  getMigrationName: (name) => name,
  getMigration: (name) => Promise.resolve(migrations[name]!),
};
