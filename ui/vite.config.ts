/// <reference types="vitest/config" />
import { svelte, vitePreprocess } from '@sveltejs/vite-plugin-svelte'
import { svelteTesting } from '@testing-library/svelte/vite'
import { optimizeCss, optimizeImports } from 'carbon-preprocess-svelte'
import { defineConfig, type Plugin } from 'vite'

// Carbon's style sheets name fonts on a remote server; the fonts are shipped
// with the program instead.
const noRemoteFonts: Plugin = {
  name: 'carbon-no-remote-fonts',
  enforce: 'pre',
  transform(code, id) {
    if (/carbon-components-svelte\/css\/[a-z0-9]+\.css/.test(id)) {
      return { code: code.replace(/@font-face\s*\{[^}]*\}/g, ''), map: null }
    }
  },
}

// What of others is in the pages, written beside them: NOTICE and the licence texts are
// made from it (scripts/notice.sh). A style sheet leaves no module of its own in a
// chunk, so those are taken from all that was read.
const shipped: Plugin = {
  name: 'shipped-packages',
  apply: 'build',
  generateBundle(_options, bundle) {
    const ids = [...this.getModuleIds()].filter((id) => /\.css(\?|$)/.test(id))
    for (const chunk of Object.values(bundle)) {
      if (chunk.type !== 'chunk') continue
      for (const [id, module] of Object.entries(chunk.modules)) if (module.renderedLength > 0) ids.push(id)
    }
    const packages = new Set<string>()
    for (const id of ids) {
      const name = /^\0(vite|rolldown)\//.exec(id)?.[1] ?? /.*node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(id)?.[1]
      if (name) packages.add(name)
    }
    this.emitFile({ type: 'asset', fileName: 'shipped.json', source: JSON.stringify([...packages].sort()) })
  },
}

// The import from carbon-components-svelte stands first in a component's script:
// behind another import of one line it is not narrowed to its components, and the whole
// style sheet is shipped (scripts/size.sh notices).
export default defineConfig({
  plugins: [
    noRemoteFonts,
    shipped,
    svelte({ preprocess: [vitePreprocess(), optimizeImports()] }),
    optimizeCss({ silent: true }),
    svelteTesting(),
  ],
  build: {
    manifest: true,
    outDir: 'build/app',
    emptyOutDir: true,
    modulePreload: { polyfill: false },
    assetsInlineLimit: 0,
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8080' } },
  test: {
    css: true,
    environment: 'jsdom',
    include: ['src/**/*.test.ts'],
  },
})
