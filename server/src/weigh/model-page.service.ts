import type { FileContent, Id, ModelsAnswer, Person, Section, Work, WorkModel } from '@kalvet/core';
import { begunOf, indexShop, plannedWax, sectionLetter } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { changeNumber } from '../live/changes.ts';
import { loadShop } from '../shop/load.ts';
import { weighedOf } from '../work/section-weights.service.ts';
import type { Store } from '../write/store.ts';
import { notFound } from '../write/problem.ts';

/** Works whose waxes are offered to compare with. */
const MOST_SIMILAR = 60;

/** A work's models with what was measured of them, its sections with every way their wax is known. */
export async function modelsAnswer(store: Store, workId: Id): Promise<ModelsAnswer> {
  const change = await changeNumber(store);
  const [work] = await rowsOf<Work>(store, 'works', { id: workId });
  if (!work) throw notFound('work');
  const index = indexShop(await loadShop(store, { workIds: [workId] }));
  const models = await rowsOf<WorkModel>(store, 'models', { workId, voidReason: null });
  const [contents, people, sections, similar] = await Promise.all([
    rowsOf<FileContent>(store, 'contents', { id: models.map(({ contentId }) => contentId) }),
    rowsOf<Pick<Person, 'id' | 'name'>>(store, 'people', { id: models.flatMap(({ byId }) => byId ?? []) }),
    Promise.all((index.sectionsOf.get(workId) ?? []).map((section) => sectionView(store, section))),
    similarTo(store, workId),
  ]);
  const { id, title, alloyId, method, glyph, version } = work;
  return {
    change,
    work: { id, title, alloyId, method, glyph, version, mayBeCut: begunOf(index, work) === undefined },
    sections,
    models: models
      .map((model) => ({
        ...model,
        content: contents.find((each) => each.id === model.contentId)!,
        by: people.find((each) => each.id === model.byId)?.name ?? null,
      }))
      .sort((a, b) => a.at.localeCompare(b.at)),
    similar,
  };
}

const sectionView = async (store: Store, section: Section): Promise<ModelsAnswer['sections'][number]> => ({
  id: section.id,
  letter: sectionLetter(section.ordinal),
  name: section.name,
  wallMm: section.wallMm,
  metalHeightMm: section.metalHeightMm,
  areaCm2: section.areaCm2,
  expectedWaxKg: section.expectedWaxKg,
  estimates: section.estimates ?? [],
  wayUp: section.wayUp ?? null,
  waxes: await weighedOf(store, section.id),
  version: section.version,
});

/** Other works' sections with what their waxes are planned with. */
async function similarTo(store: Store, workId: Id): Promise<ModelsAnswer['similar']> {
  const [works, sections] = await Promise.all([
    rowsOf<Work>(store, 'works', {}),
    rowsOf<Section>(store, 'sections', {}),
  ]);
  return works
    .filter(({ id }) => id !== workId)
    .flatMap(({ id, title }) => {
      const own = sections.filter((section) => section.workId === id);
      return own.flatMap((section) => {
        const wax = plannedWax(section);
        return wax ? [{ title: own.length === 1 ? title : `${title}, ${section.name}`, waxKg: wax.value }] : [];
      });
    })
    .sort((a, b) => a.title.localeCompare(b.title))
    .slice(0, MOST_SIMILAR);
}
