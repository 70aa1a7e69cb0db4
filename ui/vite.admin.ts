import { defineConfig } from 'vite'
import { application } from './vite.shared.ts'

export default defineConfig(application('admin'))
