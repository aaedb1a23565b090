import { redirect } from '@sveltejs/kit';
import { pageData } from '../lib/server/pageData.js';
import { cellLines } from '../lib/server/repository/cells.js';
import { getServices } from '../lib/server/services.js';

export const load = async () => {
  const [first] = await pageData(() => cellLines(getServices().db));
  redirect(307, first ? `/cells/${encodeURIComponent(first.id)}/line-up` : '/cells');
};
