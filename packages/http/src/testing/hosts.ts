import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { serve as hostHono } from '@hono/node-server';
import express from 'express';
import fastify from 'fastify';
import { Hono } from 'hono';
import Koa from 'koa';
import { type FetchHandler, fastifyRoutes, nodeListener } from '../index.js';
import { type Hosted, hosted } from './hosted.js';

/** Hosts of an API whose paths start with `/api`, each at a port of its own. */
export const HOSTS: Readonly<Record<string, (handle: FetchHandler) => Promise<Hosted>>> = {
  'node:http': (handle) => hosted(createServer(nodeListener(handle))),
  Express: (handle) => {
    const app = express();
    app.use('/api', nodeListener(handle));
    return hosted(createServer(app));
  },
  Fastify: async (handle) => {
    const app = fastify();
    await app.register(fastifyRoutes(handle), { prefix: '/api' });
    await app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = app.server.address() as AddressInfo;
    return { port, close: () => app.close() };
  },
  Koa: (handle) => {
    const app = new Koa();
    // Uploads that break off are what is tested: without this, each is printed.
    app.silent = true;
    const listen = nodeListener(handle);
    app.use((context) => {
      // The API answers by itself.
      context.respond = false;
      listen(context.req, context.res);
    });
    return hosted(createServer(app.callback()));
  },
  Hono: (handle) => {
    const app = new Hono().all('/api/*', (c) => handle(c.req.raw));
    return new Promise((resolve) => {
      const server = hostHono(
        { fetch: app.fetch, port: 0, hostname: '127.0.0.1', overrideGlobalObjects: false },
        ({ port }) => {
          resolve({ port, close: () => new Promise((done) => void server.close(() => done())) });
        },
      );
    });
  },
};

/** Those whose connections are ours: what a Fetch host does with its own, it does by itself. */
export const OWN_HOSTS = Object.entries(HOSTS).filter(([name]) => name !== 'Hono');
