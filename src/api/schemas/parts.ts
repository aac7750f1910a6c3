import Joi from 'joi';

/** The pieces that documents are made of. */
export const id = Joi.string().required();
export const text = Joi.string().allow('').required();
export const maybe = Joi.string().allow(null, '').required();
export const time = Joi.string().isoDate().required();
export const maybeTime = Joi.string().isoDate().allow(null).required();
export const count = Joi.number().integer().required();
export const maybeCount = Joi.number().integer().allow(null).required();
export const flag = Joi.boolean().required();

/** How a request names a thing: by handle, address, identifier or a unique part of one. */
export const refText = Joi.string().trim().min(1).max(2048);
export const refParams = (name: string) => Joi.object({ [name]: refText.required() });

export const role = Joi.valid('lead', 'consultant', 'onlooker');
export const reach = Joi.valid('name', 'address');
export const method = Joi.valid('meta', 'file', 'dns');
export const badge = Joi.valid('bare', 'issued', 'in-place', 'held', 'slipping', 'lost');
export const sitemapState = Joi.valid('unread', 'clean', 'flawed', 'unreachable');

export const list = (item: Joi.Schema) => Joi.array().items(item).required();
export const items = (item: Joi.Schema) => Joi.object({ items: list(item) });
export const page = (item: Joi.Schema) =>
  Joi.object({ items: list(item), next: Joi.string().allow(null).required() });

export const named = { id, handle: id };
export const engineRef = Joi.object({ id, title: id }).required();

/** How many there are of each kind, by its name. */
export const counts = Joi.object().pattern(Joi.string(), count).required();

/** Which page of a list, and how much of it. */
export const pageQuery = {
  after: Joi.string().max(200),
  limit: Joi.number().integer().min(1).max(500).default(100),
};

/** What most lists can be narrowed to. */
export const narrow = { client: refText, engine: refText, match: Joi.string().allow('').max(200) };
