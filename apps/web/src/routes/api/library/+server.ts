import { packageLimits } from '@fadenkreuz/core/describers';
import { answer, boundedBytes } from '../../../lib/server/answer.js';
import { readFile } from '../../../lib/server/files/readFile.js';
import { addDescriber, findDescribers } from '../../../lib/server/repository/describers.js';
import { getServices } from '../../../lib/server/services.js';

export const GET = ({ url }) =>
  answer(() => findDescribers(getServices().db, url.searchParams.get('text')?.slice(0, 200) ?? ''));

/** Takes a description file into the library: all of it, or, with a Problem, nothing. */
export const POST = ({ request, url }) =>
  answer(async () =>
    addDescriber(
      getServices().db,
      url.searchParams.get('name')?.slice(0, 200) ?? 'describer',
      await boundedBytes(request, packageLimits.bytes),
      (bytes) => readFile('describer', bytes),
    ),
  );
