import { defineForm } from 'zip-loom/forms';
import { z } from 'zod';

export const searchForm = defineForm('search', z.object({ q: z.string().optional() }));
