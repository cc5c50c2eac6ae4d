import express, { Router } from 'express';
import type { RequestHandler, Response } from 'express';
import Joi from 'joi';
import type { AttachedTo, Id } from '@kalvet/core';
import { ATTACHED_TO, FILE_LIMITS } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { answerWrite, check, idIn } from '../http/request.ts';
import type { Server } from '../http/request.ts';
import { roomToWrite } from '../keep/disk.ts';
import { sightsIn } from '../people/rights.ts';
import { may, signedIn } from '../people/who.ts';
import { notFound } from '../write/problem.ts';
import { form, id, oneOf } from '../write/schemas.ts';
import * as attach from './attach.service.ts';
import { attachmentsOf, mayReadContent } from './attached-read.service.ts';
import { AS_IT_CAME, pour, readChunks } from './chunks.ts';
import type { Size } from './chunks.ts';
import * as schema from './file.schema.ts';
import type { ContentRow } from './upload.service.ts';
import * as upload from './upload.service.ts';

const ofSubject = form<{ readonly subject: AttachedTo; readonly id: Id }>({
  subject: oneOf(ATTACHED_TO).required(),
  id: id().required(),
});
const size = form<{ readonly size?: 'large' | 'small' }>({ size: Joi.string().valid('large', 'small').optional() });

/** Files, and what they hang on. */
export function fileRoutes(server: Server): Router {
  const routes = Router();
  const { store } = server;
  const asker = (response: Response): Id => signedIn(response).person.id;
  const room: RequestHandler = (_request, _response, next) => {
    roomToWrite(server.disk?.() ?? null);
    next();
  };
  routes.post('/files', may('attach file'), room, async (request, response) => {
    const body = check(schema.beginUpload, request.body);
    response.status(201).json(await upload.beginUpload(store, asker(response), body, server.now()));
  });
  routes.put(
    '/files/:id/parts/:part',
    may('attach file'),
    room,
    express.raw({ type: PART_TYPE, limit: FILE_LIMITS.partBytes }),
    async (request, response) => {
      const data: Buffer = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
      await upload.putPart(store, asker(response), idIn(request), Number(request.params['part']), data);
      response.json({});
    },
  );
  routes.post('/files/:id/end', may('attach file'), room, async (request, response) => {
    response.json(await upload.endUpload(store, asker(response), idIn(request)));
  });
  routes.post('/files/:id/give-up', may('attach file'), async (request, response) => {
    await upload.giveUp(store, asker(response), idIn(request));
    response.json({});
  });
  routes.get('/files/:id', async (request, response) => {
    const { size: asked } = check(size, request.query);
    const [content] = await rowsOf<ContentRow>(store, 'contents', { id: idIn(request), state: 'kept' });
    const reader = { id: asker(response), sights: sightsIn(response) };
    if (!content || !(await mayReadContent(store, content, reader))) throw notFound('file');
    const tag = `"${content.hash!.slice(0, 32)}${asked ?? ''}"`;
    serveHeaders(response, content, tag);
    if (request.header('If-None-Match') === tag) {
      response.status(304).end();
      return;
    }
    const kept: Size = content.kind === 'picture' ? (asked ?? 'full') : AS_IT_CAME;
    await pour(readChunks(store, content.id, kept), response);
  });
  routes.get('/attachments', async (request, response) => {
    const { subject, id: subjectId } = check(ofSubject, request.query);
    response.json(await attachmentsOf(store, { subject, subjectId }, sightsIn(response)));
  });
  routes.post('/attachments', may('attach file'), async (request, response) => {
    const body = check(schema.attachFile, request.body);
    await answerWrite(server, request, response, (ctx) => attach.attachFile(ctx, body), { status: 201 });
  });
  routes.put('/attachments/:id', may('change file'), async (request, response) => {
    const body = check(schema.changeAttachment, request.body);
    await answerWrite(server, request, response, (ctx) => attach.changeAttachment(ctx, idIn(request), body));
  });
  routes.post('/attachments/:id/put-away', may('put file away'), async (request, response) => {
    const body = check(schema.removeAttachment, request.body);
    await answerWrite(server, request, response, (ctx) => attach.putAway(ctx, idIn(request), body));
  });
  return routes;
}

/** What parts of files are sent as; everything else that is written is JSON. */
export const PART_TYPE = 'application/octet-stream';
export const isPart = (path: string): boolean => /^\/files\/[^/]+\/parts\/\d+$/.test(path);

/** A file is what its content said, and nothing that runs: pictures and papers are shown, all else is taken away. */
function serveHeaders(response: Response, { kind, mime, name, bytes }: ContentRow, tag: string): void {
  response.setHeader('Content-Type', mime);
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox; frame-ancestors 'self'");
  response.setHeader('Cross-Origin-Resource-Policy', 'same-origin');
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable, no-transform');
  response.setHeader('ETag', tag);
  const way = kind === 'model' ? 'attachment' : 'inline';
  response.setHeader('Content-Disposition', `${way}; filename*=UTF-8''${encodeURIComponent(name)}`);
  if (kind !== 'picture') response.setHeader('Content-Length', bytes);
}
