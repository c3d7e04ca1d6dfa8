import { createHash } from 'node:crypto';
import path from 'node:path';
import vue from '@vitejs/plugin-vue';
import Components from 'unplugin-vue-components/vite';
import { ElementPlusResolver } from 'unplugin-vue-components/resolvers';
import { defineConfig, type Plugin } from 'vite';

const WORKER = 'service-worker';
/** What the service worker is made of: it has no page, so it takes no file that a page is made of. */
const WORKERS_OWN = /service-worker|node_modules[\\/]workbox-/;

/** Hands the service worker the list of all files that were built, so that the application opens without a network. */
function filesForTheWorker(): Plugin {
  return {
    name: 'files-for-the-worker',
    enforce: 'post',
    generateBundle(_options, bundle) {
      const worker = bundle[`${WORKER}.js`];
      if (worker?.type !== 'chunk') throw new Error(`no ${WORKER}.js among the built files`);
      // There is no page where it runs: what needs one would break it.
      const pages = worker.imports.filter((file) => file.includes('/main-'));
      if (pages.length > 0) throw new Error(`${WORKER}.js imports ${pages.join(', ')}, which is the page’s`);
      const files = Object.values(bundle)
        .filter((file) => file !== worker && !file.fileName.startsWith('.vite/'))
        .map((file) => {
          const content = file.type === 'chunk' ? file.code : file.source;
          const hashed = file.fileName.startsWith('assets/');
          const revision = hashed ? null : createHash('sha256').update(content).digest('hex').slice(0, 16);
          return { url: `/${file.fileName}`, revision };
        });
      worker.code = worker.code.replaceAll('self.__FILES', JSON.stringify(files));
    },
  };
}

export default defineConfig({
  plugins: [
    vue(),
    Components({ dirs: [], dts: false, resolvers: [ElementPlusResolver({ importStyle: 'css' })] }),
    filesForTheWorker(),
  ],
  // The reader of drawings in a PDF asks whether it is built in; a page has no `global` to be asked.
  define: { 'global.xmldocAssumeBrowser': 'false' },
  resolve: {
    alias: [
      {
        find: '@ctrl/tinycolor',
        replacement: path.join(import.meta.dirname, 'src/theme/no-button-colors.ts'),
      },
      // The build of it that needs no disk.
      { find: /^pdfkit$/, replacement: 'pdfkit/js/pdfkit.standalone.js' },
    ],
  },
  build: {
    target: 'es2022',
    manifest: true,
    reportCompressedSize: false,
    chunkSizeWarningLimit: 900,
    rollupOptions: {
      input: {
        main: path.join(import.meta.dirname, 'index.html'),
        [WORKER]: path.join(import.meta.dirname, 'src/service-worker.ts'),
      },
      output: {
        // What every page needs comes in one file: forty small ones take longer to ask for than to read.
        codeSplitting: {
          groups: [{ name: 'base', tags: ['$initial'], test: (id) => !WORKERS_OWN.test(id) }],
        },
        entryFileNames: (chunk) => (chunk.name === WORKER ? `${WORKER}.js` : 'assets/[name]-[hash].js'),
      },
    },
  },
  server: { host: '127.0.0.1' },
});
