// Builds the committed static files. `node build.mjs OUT` writes them; `node build.mjs --check`
// builds into a temporary folder and fails when the committed ones differ.
import { execFileSync } from "node:child_process";
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { build } from "esbuild";

const COMMITTED = "../src/euhydra/web/static";
const AXE = "../tests/browser/axe.min.js";
const FONTS = {
  "bricolage-grotesque": "bricolage-grotesque",
  "atkinson-hyperlegible-next": "atkinson-hyperlegible-next",
  "spline-sans-mono": "spline-sans-mono",
};
const FILES = [
  "app.css",
  "app.js",
  "theme.js",
  "vendor/plot.js",
  "vendor/alpine.js",
  "vendor/morph.js",
  "licences.txt",
  ...Object.keys(FONTS).flatMap((f) => [`fonts/${f}-latin.woff2`, `fonts/${f}-latin-ext.woff2`]),
];

// The licence of a package: its own file, else the one that its package.json names.
function licence(pack) {
  const about = JSON.parse(readFileSync(`node_modules/${pack}/package.json`, "utf8"));
  const file = `node_modules/${pack}/LICENSE`;
  if (!existsSync(file) && about.license !== "MIT") throw new Error(`${pack} comes without its licence`);
  const text = existsSync(file)
    ? readFileSync(file, "utf8").trim()
    : readFileSync("../LICENSE", "utf8")
        .trim()
        .replace(/^Copyright.*$/m, `Copyright (c) ${about.author}`);
  return `${pack} ${about.version}\n${"=".repeat(72)}\n${text}\n`;
}

async function make(out) {
  mkdirSync(join(out, "fonts"), { recursive: true });
  mkdirSync(join(out, "vendor"), { recursive: true });
  for (const [name, pack] of Object.entries(FONTS)) {
    for (const subset of ["latin", "latin-ext"]) {
      cpSync(
        `node_modules/@fontsource-variable/${pack}/files/${name}-${subset}-wght-normal.woff2`,
        join(out, `fonts/${name}-${subset}.woff2`),
      );
    }
  }
  const packs = new Set([...Object.values(FONTS).map((f) => `@fontsource-variable/${f}`), "tailwindcss"]);
  for (const name of ["plot", "alpine", "morph"]) {
    const { metafile } = await build({
      entryPoints: [`${name}.js`],
      bundle: true,
      minify: true,
      format: "esm",
      target: "es2022",
      legalComments: "none",
      metafile: true,
      outfile: join(out, `vendor/${name}.js`),
    });
    for (const file of Object.keys(metafile.inputs)) {
      const pack = file.match(/.*node_modules\/((?:@[^/]+\/)?[^/]+)\//)?.[1];
      if (pack) packs.add(pack);
    }
  }
  // One file, so that a page on a phone is there after a few answers; names stay as they are written.
  for (const [name, entry] of Object.entries({ app: "js/main.js", theme: "js/theme.js" })) {
    await build({
      entryPoints: [entry],
      bundle: true,
      minifyWhitespace: true,
      minifySyntax: true,
      format: "esm",
      target: "es2022",
      external: ["/static/vendor/*"],
      outfile: join(out, `${name}.js`),
    });
  }
  writeFileSync(
    join(out, "licences.txt"),
    `What ships with Euhydra, and under which terms.\n\n${[...packs].sort().map(licence).join("\n")}`,
  );
  execFileSync(
    "node_modules/.bin/tailwindcss",
    ["--input", "app.css", "--output", join(out, "app.css"), "--minify"],
    { stdio: ["ignore", "ignore", "pipe"] },
  );
}

if (process.argv[2] === "--check") {
  const fresh = mkdtempSync(join(tmpdir(), "assets-"));
  await make(fresh);
  const stale = FILES.filter((f) => !readFileSync(join(fresh, f)).equals(readFileSync(join(COMMITTED, f))));
  if (!readFileSync("node_modules/axe-core/axe.min.js").equals(readFileSync(AXE))) stale.push(AXE);
  rmSync(fresh, { recursive: true });
  if (stale.length) {
    console.error(`Not what the sources build: ${stale.join(", ")}. Run "make css".`);
    process.exit(1);
  }
  console.log(`assets: ${FILES.length + 1} committed files are current`);
} else {
  await make(process.argv[2] ?? COMMITTED);
  cpSync("node_modules/axe-core/axe.min.js", AXE);
}
