import { EditRequest } from '../../../../../lib/api/changes.js';
import { answer } from '../../../../../lib/server/answer.js';
import { answerChange } from '../../../../../lib/server/changeRequest.js';
import { history, makeEdit } from '../../../../../lib/server/repository/changes.js';
import { getServices } from '../../../../../lib/server/services.js';

export const GET = ({ params }) => answer(() => history(getServices().db, params.cell, 100));

export const POST = ({ params, request }) =>
  answerChange(request, params.cell, EditRequest, (db, change, { edit }) =>
    makeEdit(db, params.cell, change, edit),
  );
