import { Router } from 'express';
import { packSoundings, type CleanSettings } from '@restless-shoal/core/chart';
import type { OutlineGeometry } from '@restless-shoal/core/geo';
import { wantChart } from '../db/charts';
import type { Pool } from '../db/pool';
import { soundingColumns, surveysOf } from '../db/soundings';
import { addCover, describeWater, removeCover, removeSentCover, setOutline, waterByName } from '../db/waters';
import { sendMade } from './download';
import { blurOf, BLURS } from '@restless-shoal/core/geo';
import { EXPORT_FILES, exportFile, exportShared, exportZip } from '../export';
import type { ImportOptions } from '../import/import-terms';
import { previewImport } from '../import/preview';
import type { Jobs } from '../jobs/queue';
import { accountOf } from './account';
import { notFound, RequestError } from './errors';
import { on } from './on';
import { outlineZone, waterOf } from './waters';

/** What a chart is made from, and what is made of it. */
export function chartRoutes(pool: Pool, jobs: Jobs, scratch: string): Router {
  const router = Router();
  on(router, 'PUT /uploads/:upload/:file', async ({ request }) => {
    if (!request.is('application/octet-stream')) throw new RequestError('upload-not-bytes');
    return { bytes: await jobs.uploads.take(String(request.params.upload), String(request.params.file), request) };
  });
  on(router, 'POST /imports', async ({ request, body }) => {
    const { upload, ...wanted } = body as { upload: string } & Required<Pick<ImportOptions, 'water' | 'create' | 'update'>> & ImportOptions;
    const water = await waterByName(pool, accountOf(request), wanted.water);
    if (!water && !wanted.create) throw new RequestError('no-such-water', { water: wanted.water }, 'water');
    return { job: await jobs.startImport(accountOf(request), water?.id ?? null, upload, wanted) };
  });
  // What an import would do with files that were sent, and what has to be asked first.
  on(router, 'POST /imports/preview', async ({ request, body }) => {
    const { upload, water, mapping, from } = body as { upload: string } & ImportOptions;
    return await previewImport(pool, accountOf(request), await jobs.uploads.sources(upload), { water, mapping, from });
  });
  on(router, 'GET /waters/:water/jobs', async ({ request }) => {
    return await jobs.underWay(accountOf(request), (await waterOf(pool, request)).id);
  });
  on(router, 'POST /waters/:water/chart', async ({ request }) => {
    const water = await waterOf(pool, request);
    await wantChart(pool, water.id);
    return { job: await jobs.startChart(accountOf(request), water.id) };
  });
  on(router, 'GET /waters/:water/surveys', async ({ request }) => {
    return await surveysOf(pool, (await waterOf(pool, request)).id);
  });
  on(router, 'GET /waters/:water/soundings', async ({ request, response }) => {
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
  on(router, 'PUT /waters/:water/cleaning', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const cleaning = body as CleanSettings;
    await describeWater(pool, water.id, { cleaning });
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'PUT /waters/:water/tide', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    await describeWater(pool, water.id, { tide: body });
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'DELETE /waters/:water/tide', async ({ request }) => {
    const water = await waterOf(pool, request);
    await describeWater(pool, water.id, { tide: null });
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'PUT /waters/:water/outline', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const { outline } = body as { outline: OutlineGeometry };
    await setOutline(pool, water.id, outline, outlineZone(outline));
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'POST /waters/:water/cover', async ({ request, body }) => {
    const water = await waterOf(pool, request);
    const feature = body as Parameters<typeof addCover>[2][number];
    await addCover(pool, water.id, [{ placed_on: new Date().toISOString().slice(0, 10), ...feature }]);
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'DELETE /waters/:water/cover', async ({ request }) => {
    const water = await waterOf(pool, request);
    const { source } = request.query;
    if (typeof source !== 'string' || !(await removeSentCover(pool, water.id, source))) throw notFound('cover');
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'DELETE /waters/:water/cover/:id', async ({ request }) => {
    const water = await waterOf(pool, request);
    if (!/^\d{1,15}$/.test(String(request.params.id)) || !(await removeCover(pool, water.id, Number(request.params.id))))
      throw notFound('cover');
    return await rebuilt(accountOf(request), water.id);
  });
  on(router, 'GET /waters/:water/export/:file', async ({ request, response }) => {
    const water = await waterOf(pool, request);
    const file = String(request.params.file);
    const name = water.name.replace(/[^\w-]+/g, '-');
    if (file === 'water.zip') {
      await sendMade(response, scratch, `${name}.zip`, (path, signal) => exportZip(pool, water, path, signal));
      return;
    }
    if (file === 'shared.zip') {
      const blur = blurOf(request.query.blur);
      if (blur === undefined) throw new RequestError('field-none-of', { options: BLURS.join(', ') }, 'blur');
      await sendMade(response, scratch, `${name}-for-others.zip`, (path, signal) => exportShared(pool, water, blur, path, signal));
      return;
    }
    if (!(EXPORT_FILES as readonly string[]).includes(file)) throw notFound('file');
    const body = await exportFile(pool, water, file as (typeof EXPORT_FILES)[number]);
    if (!body) throw new RequestError('nothing-to-export', { water: water.name, file });
    response.attachment(`${name}-${file}`).send(body);
  });
  return router;
}
