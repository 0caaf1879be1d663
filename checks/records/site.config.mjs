// The site of Skerrow Ferries on a CMS that keeps every kind of record in a table of its own, lists and blocks in further tables, and
// relations of several kinds in one table of links. SITE_FILE is the copy; SITE_EXTENSION adds what staging's extension needs.
import { sqliteAdapter } from '@payloadcms/db-sqlite'
import { buildConfig } from 'payload'

const extended = process.env.SITE_EXTENSION === '1'
const label = { name: 'label', type: 'text', required: true }
const to = (name, relationTo, more = {}) => ({ name, type: 'relationship', relationTo, ...more })
const list = (name, ...fields) => ({ name, type: 'array', fields })

const pages = {
  slug: 'pages',
  versions: { drafts: true },
  fields: [
    { name: 'title', type: 'text', required: true },
    { name: 'slug', type: 'text', required: true, unique: true },
    { name: 'body', type: 'textarea' },
    to('author', 'users'),
    to('parent', 'pages'),
    { name: 'hero', type: 'upload', relationTo: 'media' },
    to('tags', 'tags', { hasMany: true }),
    to('related', ['pages', 'harbours'], { hasMany: true }),
    list('links', label, to('page', 'pages')),
    {
      name: 'layout',
      type: 'blocks',
      blocks: [
        { slug: 'quote', fields: [{ name: 'text', type: 'textarea' }] },
        { slug: 'teaser', fields: [label, to('page', 'pages')] },
        { slug: 'gallery', fields: [{ name: 'pictures', type: 'upload', relationTo: 'media', hasMany: true }] },
      ],
    },
    { name: 'extra', type: 'json' },
    ...(extended ? [{ name: 'teaser', type: 'text', defaultValue: '' }] : []),
  ],
}

const offers = {
  slug: 'offers',
  fields: [{ name: 'title', type: 'text', required: true }, to('page', 'pages'), list('routes', { name: 'route', type: 'text' })],
}

export default buildConfig({
  secret: 'made up for the check',
  telemetry: false,
  serverURL: process.env.SITE_ADDRESS,
  logger: { options: { level: 'error' } },
  db: sqliteAdapter({ client: { url: 'file:' + process.env.SITE_FILE } }),
  collections: [
    { slug: 'users', auth: true, fields: [{ name: 'name', type: 'text' }] },
    { slug: 'media', upload: { staticDir: process.env.SITE_FILE + '-media' }, fields: [{ name: 'alt', type: 'text' }] },
    { slug: 'tags', fields: [{ name: 'name', type: 'text', required: true, unique: true }] },
    { slug: 'harbours', fields: [{ name: 'name', type: 'text', required: true }, { name: 'code', type: 'text', required: true, unique: true }] },
    pages,
    { slug: 'comments', fields: [to('page', 'pages'), { name: 'author', type: 'text' }, { name: 'text', type: 'textarea' }] },
    ...(extended ? [offers] : []),
  ],
  globals: [
    { slug: 'header', fields: [list('entries', label, to('page', 'pages'))] },
    { slug: 'settings', fields: [{ name: 'tagline', type: 'text' }, { name: 'notice', type: 'text' }, to('home', 'pages')] },
  ],
})
