import { deserialize, serialize } from 'node:v8';
import { In, type EntityManager } from 'typeorm';
import { Product } from '../database/entities.js';

/** What is kept of an analysis, each by the digest of its own inputs. */
export type ProductKind = 'pull' | 'findings' | 'curves' | 'choices' | 'leaning' | 'card';

/** So many states of a programme are kept: an undo finds the one before it. Of a card, the one that holds now. */
const keptStates = (kind: ProductKind) => (kind === 'card' ? 1 : 4);

/** What is kept of a kind, by digest. */
export async function keptProducts<T>(
  manager: EntityManager,
  programmeId: string,
  kind: ProductKind,
  digests: readonly string[],
): Promise<Map<string, T>> {
  const rows = await manager.findBy(Product, { programmeId, kind, digest: In([...digests]) });
  return new Map(rows.map(({ digest, body }) => [digest, deserialize(body) as T]));
}

/** What is kept for one digest; null where it has to be computed. */
export async function keptProduct<T>(manager: EntityManager, programmeId: string, kind: ProductKind, digest: string): Promise<T | null> {
  return (await keptProducts<T>(manager, programmeId, kind, [digest])).get(digest) ?? null;
}

/** What is kept of a kind for all programmes, the newest of each. */
export async function keptOfKind<T>(
  manager: EntityManager,
  kind: ProductKind,
): Promise<{ programmeId: string; digest: string; product: T }[]> {
  const rows = await manager.find(Product, { where: { kind }, order: { createdAt: 'ASC' } });
  return rows.map(({ programmeId, digest, body }) => ({ programmeId, digest, product: deserialize(body) as T }));
}

/** Keeps products; of findings and curves the newest states, of pulls those that are pulls now. */
export async function keepProducts(
  manager: EntityManager,
  programmeId: string,
  kind: ProductKind,
  products: ReadonlyMap<string, unknown>,
  present: readonly string[] = [],
): Promise<void> {
  const createdAt = new Date().toISOString();
  await manager.upsert(
    Product,
    [...products].map(([digest, product]) => ({ programmeId, kind, digest, body: serialize(product), createdAt })),
    ['programmeId', 'kind', 'digest'],
  );
  const kept = await manager.find(Product, {
    where: { programmeId, kind },
    order: { createdAt: 'DESC' },
    select: { programmeId: true, kind: true, digest: true },
  });
  const now = new Set(present);
  const old = kind === 'pull' ? kept.filter(({ digest }) => !now.has(digest)) : kept.slice(keptStates(kind));
  if (old.length > 0) await manager.delete(Product, { programmeId, kind, digest: In(old.map(({ digest }) => digest)) });
}
