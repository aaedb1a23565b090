import { Problem } from '@fadenkreuz/core';
import { error } from '@sveltejs/kit';
import { statusOf } from './answer.js';
import { withDatabase } from './database.js';

/** Loads the data of a page; a Problem becomes the error page, with status 503 while a part is away. */
export async function pageData<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await withDatabase(work);
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    error(statusOf(problem.code) === 404 ? 404 : 503, `${problem.message} ${problem.cure}`);
  }
}
