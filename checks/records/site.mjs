// Opens a copy through the CMS's own API, and helps with finding records by what people call them.
import { getPayload } from 'payload'
import config from './site.config.mjs'

export const cms = await getPayload({ config })

const pixel = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')

export const add = async (collection, data) => (await cms.create({ collection, data })).id
export const page = (data) => add('pages', { _status: 'published', ...data })
export const picture = async (name, alt) =>
  (await cms.create({ collection: 'media', data: { alt }, file: { data: pixel, mimetype: 'image/png', name, size: pixel.length } })).id

const names = { pages: 'slug', tags: 'name', harbours: 'code', media: 'filename', users: 'email', offers: 'title', comments: 'text' }
export const find = async (collection, name, depth = 2) => {
  const found = await cms.find({ collection, depth, where: { [names[collection]]: { equals: name } }, pagination: false })
  if (found.docs.length > 1) throw new Error(`there are ${found.docs.length} of ${collection} ${name}`)
  return found.docs[0]
}
export const id = async (collection, name) => (await find(collection, name, 0)).id
export const change = async (collection, name, data) => cms.update({ collection, id: await id(collection, name), data })
export const remove = async (collection, name) => cms.delete({ collection, id: await id(collection, name) })
export const global = (slug, depth = 1) => cms.findGlobal({ slug, depth })
export const changeGlobal = (slug, data) => cms.updateGlobal({ slug, data })
