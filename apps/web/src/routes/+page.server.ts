import { redirect } from '@sveltejs/kit';
import { cellLines } from '$lib/server/repository/cells.js';
import { getServices } from '$lib/server/services.js';

export const load = async () => {
  const [first] = await cellLines(getServices().db);
  redirect(307, first ? `/cells/${encodeURIComponent(first.id)}/line-up` : '/cells');
};
