#!/usr/bin/env node
// Fails where two sibling modules of a crate use each other, directly or around others. A module's parent may use its children
// and the other way round: what counts is `use` and written-out paths between siblings.
import { readFileSync, readdirSync } from "node:fs";
import { dirname, join, relative, sep } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const crates = ["core", "formats", "sim", "store", "server"];

/** Each module's path below its crate, with the text of its file. */
function modules(crate) {
  const src = join(root, crate, "src");
  return readdirSync(src, { recursive: true })
    .filter((file) => file.endsWith(".rs") && !/(^|\/)(lib|main)\.rs$/.test(file))
    .map((file) => {
      const path = relative(src, join(src, file)).slice(0, -".rs".length).split(sep);
      if (path.at(-1) === "mod") path.pop();
      return { path, text: readFileSync(join(src, file), "utf8") };
    });
}

/** `a::{b, c::d}` as a list of paths. */
function flatten(tree) {
  const cut = tree.trim().match(/^([\w:]+?)::\{([^]*)\}$/);
  if (!cut) return [tree.split(" as ")[0].trim().split("::")];
  const paths = [];
  let depth = 0;
  let part = "";
  for (const c of `${cut[2]},`) {
    if (c === "," && depth === 0) {
      if (part.trim()) paths.push(...flatten(part).map((rest) => [...cut[1].split("::"), ...rest]));
      part = "";
    } else {
      depth += { "{": 1, "}": -1 }[c] ?? 0;
      part += c;
    }
  }
  return paths;
}

/** The paths within its crate that a module uses. */
function used({ path, text }) {
  const code = text.replace(/\/\/[^\n]*/g, "");
  const trees = [...code.matchAll(/\buse ((?:crate|super)[^;]+);/g)].flatMap((m) => flatten(m[1]));
  const inline = [...code.replace(/\buse [^;]+;/g, "").matchAll(/\b(?:crate|super)(?:::\w+)+/g)].map((m) => m[0].split("::"));
  return [...trees, ...inline].map((segments) => {
    let base = path;
    while (segments[0] === "crate" || segments[0] === "super") {
      base = segments.shift() === "super" ? base.slice(0, -1) : [];
    }
    return [...base, ...segments];
  });
}

/** Which siblings use which, by the folder they share. */
function siblings(all) {
  const folders = new Map();
  for (const module of all) {
    for (const other of used(module)) {
      const at = module.path.findIndex((segment, i) => segment !== other[i]);
      // The two part ways below a common parent: its two children there are siblings.
      if (at < 0 || !/^[a-z]/.test(other[at] ?? "")) continue;
      const folder = module.path.slice(0, at).join("/");
      const isModule = all.some(({ path }) => path.slice(0, at + 1).join("/") === other.slice(0, at + 1).join("/"));
      if (!isModule) continue;
      if (!folders.has(folder)) folders.set(folder, new Map());
      const edges = folders.get(folder);
      edges.set(module.path[at], (edges.get(module.path[at]) ?? new Set()).add(other[at]));
    }
  }
  return folders;
}

/** A ring among nodes, if there is one. */
function ring(edges) {
  const done = new Set();
  const stack = [];
  const visit = (node) => {
    if (stack.includes(node)) return [...stack.slice(stack.indexOf(node)), node];
    if (done.has(node)) return undefined;
    stack.push(node);
    for (const other of edges.get(node) ?? []) {
      const found = visit(other);
      if (found) return found;
    }
    stack.pop();
    done.add(node);
    return undefined;
  };
  for (const node of edges.keys()) {
    const found = visit(node);
    if (found) return found;
  }
  return undefined;
}

const found = crates.flatMap((crate) =>
  [...siblings(modules(crate))].flatMap(([folder, edges]) => {
    const loop = ring(edges);
    return loop ? [`${crate}/src/${folder}: ${loop.join(" -> ")}`] : [];
  }),
);
for (const line of found) console.error(line);
process.exitCode = found.length > 0 ? 1 : 0;
