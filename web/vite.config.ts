import { readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { build, defineConfig, type Plugin } from 'vite'

const gzipped = promisify(gzip)
const brotli = promisify(brotliCompress)
/** Bytes of what is large: the world's coasts, and the API reference. */
const LARGE = 500_000

/** Scripts and styles are compressed once, when they are built: the server sends what lies beside them. */
function compressed(): Plugin {
  return {
    name: 'compressed',
    async writeBundle({ dir }) {
      const assets = `${dir}/assets`
      const names = readdirSync(assets).filter((file) => /\.(js|css|svg|json)$/.test(file))
      await Promise.all(
        names.map(async (name) => {
          const plain = readFileSync(`${assets}/${name}`)
          // What few ever fetch is not worth the seconds that its last kilobytes take.
          const quality = plain.length > LARGE ? 9 : constants.BROTLI_MAX_QUALITY
          const params = {
            [constants.BROTLI_PARAM_SIZE_HINT]: plain.length,
            [constants.BROTLI_PARAM_QUALITY]: quality,
          }
          writeFileSync(`${assets}/${name}.gz`, await gzipped(plain, { level: 9 }))
          writeFileSync(`${assets}/${name}.br`, await brotli(plain, { params }))
        }),
      )
    },
  }
}

/** Nothing is fetched from elsewhere: the renderer of the API reference would show its makers' logo from their host. */
function nothingFetched(): Plugin {
  return {
    name: 'nothing-fetched',
    transform: (code, id) =>
      id.includes('/redoc/')
        ? { code: code.replaceAll(/"https:\/\/cdn\.[^"]*"/g, '""'), map: null }
        : undefined,
  }
}

/** The parts that stand on the pages of shops: each one script of its own, without a framework. */
function embedded(): Plugin {
  return {
    name: 'embedded',
    apply: 'build',
    async closeBundle() {
      for (const name of ['estimate', 'choice', 'milepost', 'address'])
        await build({
          configFile: false,
          publicDir: false,
          logLevel: 'error',
          build: {
            outDir: 'dist/embed',
            emptyOutDir: false,
            lib: {
              entry: `src/embed/${name}.ts`,
              formats: ['iife'],
              name: 'GateMile',
              fileName: () => `${name}.js`,
            },
          },
        })
    },
  }
}

export default defineConfig({
  plugins: [react(), tailwindcss(), compressed(), nothingFetched(), embedded()],
  build: { sourcemap: false, chunkSizeWarningLimit: 1300, assetsInlineLimit: 0 },
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.PORT ?? '4180'}` } },
})
