import { Router } from 'express';
import { boolean, object, string } from 'yup';
import { packSoundings, type CleanSettings } from '@restless-shoal/core/chart';
import { schemas } from '@restless-shoal/core/logbook';
import { wantChart } from '../db/charts';
import type { Pool } from '../db/pool';
import { soundingColumns, surveysOf } from '../db/soundings';
import { addCover, describeWater, removeCover, setOutline, waterByName } from '../db/waters';
import { mappedPlaces, partMappings } from '@restless-shoal/core/tables';
import { sendMade } from './download';
import { EXPORT_FILES, exportFile, exportZip } from '../export';
import type { ImportOptions } from '../import/import';
import { previewImport } from '../import/preview';
import type { Jobs } from '../jobs/queue';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { outlineZone, waterOf } from './waters';

const importRequest = object({
  upload: schemas.id,
  water: string()
    .strict()
    .typeError('must be text')
    .trim()
    .min(1, 'is missing')
    .max(120, 'is longer than 120 characters')
    .required('is missing'),
  create: boolean().strict().typeError('must be true or false').default(false),
  update: boolean().strict().typeError('must be true or false').default(false),
  mapping: object({ parts: partMappings.required('is missing'), places: mappedPlaces })
    .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
    .strict()
    .default(undefined),
})
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

const outlineRequest = object({ outline: object().required('is missing') })
  .noUnknown(true, ({ unknown }) => `does not know the field ${unknown}`)
  .strict();

/** What a chart is made from, and what is made of it. */
export function chartRoutes(pool: Pool, jobs: Jobs, scratch: string): Router {
  const router = Router();
  router.put('/uploads/:upload/:file', async (request, response) => {
    if (!request.is('application/octet-stream')) throw new RequestError(415, 'a file is sent as application/octet-stream');
    response.json({ bytes: await jobs.uploads.take(String(request.params.upload), String(request.params.file), request) });
  });
  router.post('/imports', async (request, response) => {
    const { upload, ...wanted } = (await importRequest.validate(request.body)) as {
      upload: string;
      water: string;
      create: boolean;
      update: boolean;
      mapping?: ImportOptions['mapping'];
    };
    const water = await waterByName(pool, accountOf(request), wanted.water);
    if (!water && !wanted.create) throw new RequestError(404, `there is no water "${wanted.water}"`, 'water');
    response.status(202).json({ job: await jobs.startImport(accountOf(request), water?.id ?? null, upload, wanted) });
  });
  // What an import would do with files that were sent, and what has to be asked first.
  router.post('/imports/preview', async (request, response) => {
    const { upload, water, mapping } = (await importRequest.validate(request.body)) as unknown as { upload: string } & ImportOptions;
    response.json(await previewImport(pool, accountOf(request), await jobs.uploads.sources(upload), { water, mapping }));
  });
  router.get('/waters/:water/jobs', async (request, response) => {
    response.json(await jobs.underWay(accountOf(request), (await waterOf(pool, request)).id));
  });
  router.post('/waters/:water/chart', async (request, response) => {
    const water = await waterOf(pool, request);
    await wantChart(pool, water.id);
    response.status(202).json({ job: await jobs.startChart(accountOf(request), water.id) });
  });
  router.get('/waters/:water/surveys', async (request, response) => {
    response.json(await surveysOf(pool, (await waterOf(pool, request)).id));
  });
  router.get('/waters/:water/soundings', async (request, response) => {
    const water = await waterOf(pool, request);
    if (!water.epsg) {
      response.status(204).end();
      return;
    }
    response.setHeader('Cache-Control', 'no-cache');
    response.type('application/octet-stream').send(Buffer.from(packSoundings(await soundingColumns(pool, water.id), water.epsg)));
  });
  const rebuilt = async (account: string, water: string): Promise<{ job: string }> => {
    await wantChart(pool, water);
    return { job: await jobs.startChart(account, water) };
  };
  router.put('/waters/:water/cleaning', async (request, response) => {
    const water = await waterOf(pool, request);
    const cleaning = (await schemas.cleaning.validate(request.body)) as CleanSettings;
    await describeWater(pool, water.id, { cleaning });
    response.status(202).json(await rebuilt(accountOf(request), water.id));
  });
  router.put('/waters/:water/outline', async (request, response) => {
    const water = await waterOf(pool, request);
    const { outline } = (await outlineRequest.validate(request.body)) as { outline: Parameters<typeof outlineZone>[0] };
    await setOutline(pool, water.id, outline, outlineZone(outline));
    response.status(202).json(await rebuilt(accountOf(request), water.id));
  });
  router.post('/waters/:water/cover', async (request, response) => {
    const water = await waterOf(pool, request);
    const feature = (await schemas.cover.validate(request.body)) as Parameters<typeof addCover>[2][number];
    await addCover(pool, water.id, [{ placed_on: new Date().toISOString().slice(0, 10), ...feature }]);
    response.status(202).json(await rebuilt(accountOf(request), water.id));
  });
  router.delete('/waters/:water/cover/:id', async (request, response) => {
    const water = await waterOf(pool, request);
    if (!/^\d{1,15}$/.test(String(request.params.id)) || !(await removeCover(pool, water.id, Number(request.params.id))))
      throw notFound('cover');
    response.status(202).json(await rebuilt(accountOf(request), water.id));
  });
  router.get('/waters/:water/export/:file', async (request, response) => {
    const water = await waterOf(pool, request);
    const file = String(request.params.file);
    const name = water.name.replace(/[^\w-]+/g, '-');
    if (file === 'water.zip') {
      await sendMade(response, scratch, `${name}.zip`, (path, signal) => exportZip(pool, water, path, signal));
      return;
    }
    if (!(EXPORT_FILES as readonly string[]).includes(file)) throw notFound('file');
    const body = await exportFile(pool, water, file as (typeof EXPORT_FILES)[number]);
    if (!body) throw new RequestError(404, `${water.name} has nothing for ${file} yet`);
    response.attachment(`${name}-${file}`).send(body);
  });
  return router;
}
