import { z } from 'zod';
import { Id } from './common.ts';
import {
  CallAnswerBody,
  CallSeries,
  FaceDocument,
  FaceGrading,
  FaceGradingBody,
  FaceListQuery,
  FaceRow,
  FaceTable,
  FaceTableBody,
  FinishedRun,
  NewFaceBody,
  NewSeriesBody,
  OwnSeries,
} from './faces.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

/** End faces, their tables of criteria, and series that are called blind. */
export const FACE_ROUTES = {
  faces: route('get /classes/:id/faces', 'instructor', {
    params: ById,
    query: FaceListQuery,
    reply: z.array(FaceRow),
    errors: CLASS_ERRORS,
  }),
  face: route('get /classes/:id/faces/:faceId', 'instructor', {
    params: ById.extend({ faceId: Id }),
    reply: FaceDocument,
    errors: [...CLASS_ERRORS, 'not_found.face'],
  }),
  addFace: route('post /classes/:id/faces', 'instructor', {
    params: ById,
    body: NewFaceBody,
    reply: FaceDocument,
    errors: [
      ...CLASS_ERRORS,
      'face.no_picture',
      'face.attempt_not_in_class',
      'not_found.face',
      'face.attempt_signed',
    ],
  }),
  gradeFace: route('post /classes/:id/faces/:faceId/gradings', 'instructor', {
    params: ById.extend({ faceId: Id }),
    body: FaceGradingBody,
    reply: FaceGrading,
    errors: [...CLASS_ERRORS, 'not_found.face', 'face.bad_review'],
  }),
  faceTables: route('get /classes/:id/face-tables', 'instructor', {
    params: ById,
    reply: z.array(FaceTable),
    errors: CLASS_ERRORS,
  }),
  saveFaceTable: route('post /classes/:id/face-tables', 'instructor', {
    params: ById,
    body: FaceTableBody,
    reply: FaceTable,
    errors: CLASS_ERRORS,
  }),
  callSeries: route('get /classes/:id/call-series', 'instructor', {
    params: ById,
    reply: z.array(CallSeries),
    errors: CLASS_ERRORS,
  }),
  addSeries: route('post /classes/:id/call-series', 'instructor', {
    params: ById,
    body: NewSeriesBody,
    errors: [...CLASS_ERRORS, 'not_found.face', 'series.not_graded', 'series.one_sided'],
  }),
  ownSeries: route('get /own/call-series', 'signed_in', { reply: z.array(OwnSeries) }),
  startRun: route('post /call-series/:id/runs', 'signed_in', {
    params: ById,
    body: z.object({ id: Id }),
    reply: z.object({ id: Id, answered: z.array(z.number().int()) }),
    errors: ['not_found.series', 'not_found.class', 'auth.not_in_class'],
  }),
  answerCall: route('post /runs/:id/answers', 'signed_in', {
    params: ById,
    body: CallAnswerBody,
    errors: ['not_found.run', 'series.finished', 'series.other_answer', 'series.no_such_face'],
  }),
  finishRun: route('post /runs/:id/finish', 'signed_in', {
    params: ById,
    reply: FinishedRun,
    errors: ['not_found.run'],
  }),
} as const;
