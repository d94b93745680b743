import { reactRouter } from '@react-router/dev/vite'
import tailwindcss from '@tailwindcss/vite'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [tailwindcss(), reactRouter()],
  worker: { format: 'es' },
  // Given by the build alone: what is developed changes all the time.
  define: process.env.RUBRICANT_PROGRAM ? { __PROGRAM__: JSON.stringify(process.env.RUBRICANT_PROGRAM) } : {},
  environments: {
    // The server that Node runs: our own composition of Express and the routes, in one bundle.
    ssr: { build: { rollupOptions: { input: './app/host.ts' } } },
  },
  optimizeDeps: {
    include: [
      'react', 'react-dom', 'react/jsx-runtime', 'radix-ui', 'lucide-react', '@uiw/react-codemirror',
      '@codemirror/lang-html', '@codemirror/lang-css', '@codemirror/language', '@codemirror/view',
      '@codemirror/state', '@lezer/highlight', '@tanstack/react-virtual', 'react-resizable-panels',
      'any-ascii', 'css-tree', 'parse5', 'fractional-indexing',
    ], // prettier-ignore
  },
})
