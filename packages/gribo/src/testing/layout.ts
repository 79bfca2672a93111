import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { expect } from 'chai';

/** Which rooms a room may look into. A room is a folder; the longest name that fits counts. */
export type Rooms = Readonly<Record<string, readonly string[]>>;

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !/\.(test|types|d)\.tsx?$/.test(file))
    .filter((file) => !file.startsWith('testing/'));

const importsOf = (source: string): string[] =>
  [...source.matchAll(/(?:^|\n)(?:import|export)\b(?:[^;']*?\bfrom)? ?'([^']+)'|import\('([^']+)'\)/g)].map(
    ([, from, lazy]) => from ?? lazy ?? '',
  );

/** The files of a package, with what each of them imports: its own files by path, packages by name. */
const importsIn = (folder: string): ReadonlyMap<string, readonly string[]> =>
  new Map(
    filesIn(folder).map((file) => {
      const path = join(folder, file);
      const targets = importsOf(readFileSync(path, 'utf8')).map((from) =>
        from.startsWith('.')
          ? relative(folder, resolve(dirname(path), from)).replace(/\.js$/, '')
          : `package ${from}`,
      );
      return [file.replace(/\.tsx?$/, ''), targets];
    }),
  );

/** The room of a file; files that stand in no folder are in the room `top`. */
const roomOf = (file: string, rooms: readonly string[]): string => {
  if (!file.includes('/')) return 'top';
  const fitting = rooms.filter((room) => file.startsWith(`${room}/`));
  return fitting.reduce((longest, room) => (room.length > longest.length ? room : longest), '') || file;
};

/** The files on a circle of imports through a file; none where there is no circle. */
const circleThrough = (start: string, imports: ReadonlyMap<string, readonly string[]>): string[] => {
  const seen = new Set<string>();
  const walk = (file: string, way: readonly string[]): string[] => {
    for (const target of imports.get(file) ?? []) {
      if (target === start) return [...way, start];
      if (seen.has(target)) continue;
      seen.add(target);
      const circle = walk(target, [...way, target]);
      if (circle.length > 0) return circle;
    }
    return [];
  };
  return walk(start, [start]);
};

/** Whether every room that a room may look into may not look back, by any way. */
const looksBack = (rooms: Rooms): string[] => {
  const reach = (room: string, seen = new Set<string>()): ReadonlySet<string> => {
    for (const next of rooms[room] ?? []) if (!seen.has(next)) reach(next, seen.add(next));
    return seen;
  };
  return Object.keys(rooms).filter((room) => reach(room).has(room));
};

/** Whether an import is of a package, or of a part of it; `node:` stands for all modules of Node.js. */
const isPart = (target: string, known: string): boolean =>
  target === known || target.startsWith(known === 'node:' ? known : `${known}/`);

/**
 * Holds a package to its rooms: each is described, looks only where it may, and nothing goes round in a circle.
 *
 * @param folder the package's sources
 * @param packages the packages that it may import, their subpaths included
 */
export const describeLayout = (
  name: string,
  folder: string,
  rooms: Rooms,
  packages: readonly string[],
): void => {
  describe(`the layout of ${name}`, () => {
    const imports = importsIn(folder);
    const names = Object.keys(rooms);

    it('has no room that nobody described', () => {
      expect([...new Set([...imports.keys()].map((file) => roomOf(file, names)))].sort()).to.deep.equal(
        [...names].sort(),
      );
      expect(looksBack(rooms)).to.deep.equal([]);
    });

    it('goes one way', () => {
      const wrong = [...imports].flatMap(([file, targets]) => {
        const room = roomOf(file, names);
        return (
          targets
            // What is no file stands in a text that is written, such as a module that is made.
            .filter((target) => imports.has(target))
            .map((target) => [target, roomOf(target, names)] as const)
            .filter(([, to]) => to !== room && !rooms[room]?.includes(to))
            .map(([target]) => `${file} → ${target}`)
        );
      });
      expect(wrong).to.deep.equal([]);
    });

    it('has no files that import each other in a circle', () => {
      const circles = [...imports.keys()]
        .map((file) => circleThrough(file, imports))
        .filter((circle) => circle.length > 0)
        .map((circle) => circle.join(' → '));
      expect(circles).to.deep.equal([]);
    });

    it('imports the packages that it may, and no others', () => {
      const foreign = [...imports].flatMap(([file, targets]) =>
        targets
          .filter((target) => target.startsWith('package '))
          .map((target) => target.slice('package '.length))
          .filter((target) => !packages.some((known) => isPart(target, known)))
          .map((target) => `${file} → ${target}`),
      );
      expect(foreign).to.deep.equal([]);
    });
  });
};
