import { Problem } from '@fadenkreuz/core';
import { json } from '@sveltejs/kit';
import { answer } from '../../../../lib/server/answer.js';
import { describerFile, removeDescriber } from '../../../../lib/server/repository/describers.js';
import { getServices } from '../../../../lib/server/services.js';

/** The file as it came. */
export async function GET({ params }) {
  try {
    const { fileName, bytes } = await describerFile(getServices().db, params.describer);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': 'application/octet-stream',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      },
    });
  } catch (error) {
    if (error instanceof Problem) return json(error.report(), { status: 404 });
    throw error;
  }
}

export const DELETE = ({ params }) =>
  answer(async () => {
    await removeDescriber(getServices().db, params.describer);
    return {};
  });
