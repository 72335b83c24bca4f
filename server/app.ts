import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { resolve } from 'node:path';
import type { Db } from './database';
import { addDispatchRoutes } from './dispatches';
import { addExportRoutes } from './exports';
import type { EventHub } from './events';
import { addConnectionRoutes } from './connections';
import { addHistoryRoutes } from './history';
import { addPeopleRoutes } from './people';
import { addHouseRoutes } from './house';
import { AppError, createErrorHandler, createGuard, listKnownHosts } from './http';
import { addImportRoutes } from './imports';
import { addJobRoutes, type Threads } from './jobs';
import { addLanguageRoutes, createListener, openLanguages } from './languages';
import { addListingRoutes } from './listings';
import { addMarketRoutes } from './markets';
import { addCatalogRoutes } from './catalog';
import { addBulkRoutes } from './bulk';
import { addChangeRoutes } from './changes';
import { addChoiceRoutes } from './choose';
import { addReshapeRoutes } from './reshape';
import { addSourceRoutes } from './sources';
import { addCorrespondenceRoutes } from './correspondences';
import { addOwnRoutes } from './own';
import { addPictureRoutes } from './pictures';
import { addPlacingRoutes } from './placing';
import { addRemedyRoutes } from './remedies';
import { addRulebookRoutes } from './rulebooks';
import { say } from '@basileus/core/text';

/** The whole HTTP server: the interface under /api, the built web application under everything else. */
export interface AppOptions {
  db: Db;
  hub: EventHub;
  threads: Threads;
  log: Logger;
  /** Folder of the built web application; without it only the interface is served. */
  webFolder?: string | undefined;
  /** Folder of the languages that the interface speaks beside English. */
  languageFolder?: string | undefined;
  knownHosts?: ReadonlySet<string>;
}

export function createApp({ db, hub, threads, log, webFolder, languageFolder, knownHosts }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'https:'],
          connectSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  app.use(createGuard(knownHosts ?? listKnownHosts('127.0.0.1', undefined)));
  const api = express.Router();
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  const languages = openLanguages(languageFolder);
  api.use(express.json({ limit: '12mb' }));
  api.use(createListener(languages));
  addHouseRoutes(api, db, hub);
  addLanguageRoutes(api, languages);
  addHistoryRoutes(api, db);
  addPeopleRoutes(api, db);
  addCatalogRoutes(api, db);
  addOwnRoutes(api, db);
  addPictureRoutes(api, db, threads);
  addPlacingRoutes(api, db);
  addChoiceRoutes(api, db);
  addReshapeRoutes(api, db);
  addSourceRoutes(api, db, threads);
  addBulkRoutes(api, db, threads);
  addChangeRoutes(api, db, threads);
  addExportRoutes(api, db);
  addImportRoutes(api, db, threads);
  addMarketRoutes(api, db);
  addConnectionRoutes(api, db);
  addRulebookRoutes(api, db, threads);
  addCorrespondenceRoutes(api, db);
  addListingRoutes(api, db);
  addRemedyRoutes(api, db, threads);
  addDispatchRoutes(api, db, threads);
  addJobRoutes(api, db);
  api.use((request) => {
    throw new AppError('not-found', say`There is no ${request.method} ${request.path}.`, {
      remedy: say`See /api/openapi.json for what there is.`,
    });
  });
  app.use('/api', api);
  if (webFolder) {
    const index = resolve(webFolder, 'index.html');
    app.use(
      '/assets',
      express.static(resolve(webFolder, 'assets'), { immutable: true, maxAge: '1y' }),
      (_request, response) => {
        response.status(404).end();
      },
    );
    app.use(express.static(webFolder, { index: false }));
    app.get('/{*path}', (_request, response) => {
      response.set('Cache-Control', 'no-cache').sendFile(index, { dotfiles: 'allow' });
    });
  }
  app.use(createErrorHandler(log));
  return app;
}
