import { createRequire } from 'node:module';
import path from 'node:path';
import { openApiDocument } from '@clear-mark/contract/open-api';
import type { Router } from 'express';

const VIEWER = path.dirname(createRequire(import.meta.url).resolve('swagger-ui-dist/package.json'));
const VERSION = '0.1.0';

const PAGE = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Clear Mark for programs</title>
    <link rel="stylesheet" href="/api/docs/swagger-ui.css" />
  </head>
  <body>
    <div id="viewer"></div>
    <script src="/api/docs/swagger-ui-bundle.js"></script>
    <script src="/api/docs/begin.js"></script>
  </body>
</html>
`;
/** Nothing is asked of another server: no badge of a validator, no fonts. */
const BEGIN = `SwaggerUIBundle({
  url: '/api/openapi.json',
  dom_id: '#viewer',
  deepLinking: true,
  docExpansion: 'none',
  validatorUrl: 'none',
});
`;

/** What programs may ask, as OpenAPI 3.1, and a page that shows it without a network. Both are open: they tell no data. */
export function openApiRoutes(router: Router): void {
  let text: string | null = null;
  router.get('/api/openapi.json', (_request, response) => {
    text ??= JSON.stringify(openApiDocument(VERSION));
    response.type('application/json').send(text);
  });
  router.get('/api/docs', (_request, response) => {
    response.type('html').send(PAGE);
  });
  router.get('/api/docs/begin.js', (_request, response) => {
    response.type('text/javascript').send(BEGIN);
  });
  for (const file of ['swagger-ui.css', 'swagger-ui-bundle.js'])
    router.get(`/api/docs/${file}`, (_request, response) => response.sendFile(file, { root: VIEWER }));
}
