import { readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig, type Plugin } from 'vite'

/** Scripts and styles are compressed once, when they are built: the server sends what lies beside them. */
function compressed(): Plugin {
  return {
    name: 'compressed',
    writeBundle({ dir }) {
      const assets = `${dir}/assets`
      for (const name of readdirSync(assets).filter((file) => /\.(js|css|svg|json)$/.test(file))) {
        const plain = readFileSync(`${assets}/${name}`)
        writeFileSync(`${assets}/${name}.gz`, gzipSync(plain, { level: 9 }))
        const params = { [constants.BROTLI_PARAM_SIZE_HINT]: plain.length }
        writeFileSync(`${assets}/${name}.br`, brotliCompressSync(plain, { params }))
      }
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

export default defineConfig({
  plugins: [react(), tailwindcss(), compressed(), nothingFetched()],
  build: { sourcemap: false, chunkSizeWarningLimit: 1100, assetsInlineLimit: 0 },
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.PORT ?? '4180'}` } },
})
