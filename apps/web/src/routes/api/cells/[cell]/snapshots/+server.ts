import { parseInput } from '@fadenkreuz/core';
import { NewSnapshot } from '../../../../../lib/api/parameters.js';
import { answer, boundedJson } from '../../../../../lib/server/answer.js';
import { withDatabase } from '../../../../../lib/server/database.js';
import { personOf } from '../../../../../lib/server/person.js';
import { keepSnapshot, snapshotHeads } from '../../../../../lib/server/repository/snapshots.js';
import { getServices } from '../../../../../lib/server/services.js';

/** Thousands of values with their texts, bytes. */
const mostBytes = 4 * 1024 * 1024;

export const GET = ({ params }) =>
  answer(() => withDatabase(() => snapshotHeads(getServices().db, params.cell)));

/** Keeps what was read of a device; answers with the list. */
export const POST = ({ params, request, cookies }) =>
  answer(async () => {
    const snapshot = parseInput(NewSnapshot, await boundedJson(request, mostBytes), 'snapshot');
    const { db } = getServices();
    const person = personOf(cookies).slice(0, 8);
    await withDatabase(() => keepSnapshot(db, params.cell, person, snapshot));
    return withDatabase(() => snapshotHeads(db, params.cell));
  });
