import { answer } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** What is known of an exchange that ran on the bench, or runs. */
export const GET = ({ url }) =>
  answer(async () => getServices().agent.exchange(url.searchParams.get('exchange') ?? ''));
