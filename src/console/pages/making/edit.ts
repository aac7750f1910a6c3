import { useMutation } from '@tanstack/react-query';
import type { RecipeEdit } from '../../../api/making/edit.js';
import { api, queries } from '../../api.js';

/** Changes how the sitemap of a property is made. */
export function useEdit(property: string) {
  return useMutation({
    mutationFn: (body: RecipeEdit) => api.editRecipe({ params: { property }, body }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['making', property] }),
  });
}
