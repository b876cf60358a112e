// Builds the pages on which parts for shops are tried, each with another framework:  node pages/build.mjs FOLDER
import { readFileSync } from 'node:fs'
import { argv } from 'node:process'
import { fileURLToPath } from 'node:url'
import react from '@vitejs/plugin-react'
import { compile } from 'svelte/compiler'
import { build } from 'vite'

const svelte = {
  name: 'svelte',
  transform: (_, id) =>
    id.endsWith('.svelte')
      ? compile(readFileSync(id, 'utf8'), { filename: id, generate: 'client' }).js
      : null,
}

for (const name of ['react.jsx', 'vue.js', 'svelte.js', 'plain.js'])
  await build({
    configFile: false,
    publicDir: false,
    logLevel: 'error',
    plugins: [react(), svelte],
    resolve: { conditions: ['browser', 'module', 'import', 'default'] },
    define: {
      'process.env.NODE_ENV': '"development"',
      __VUE_OPTIONS_API__: 'true',
      __VUE_PROD_DEVTOOLS__: 'false',
      __VUE_PROD_HYDRATION_MISMATCH_DETAILS__: 'false',
    },
    build: {
      outDir: argv[2],
      emptyOutDir: false,
      minify: false,
      lib: {
        entry: fileURLToPath(new URL(name, import.meta.url)),
        formats: ['iife'],
        name: 'Page',
        fileName: () => `${name.split('.')[0]}.js`,
      },
    },
  })
