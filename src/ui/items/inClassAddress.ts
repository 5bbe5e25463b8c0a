/** Where an item of a quiz stands large, to be shown in class. */
export const inClassAddress = (
  {
    course,
    quiz,
  }: { readonly course: { readonly code: string }; readonly quiz: { readonly id: number } | null },
  item: string,
): string => `/c/${course.code}/items/class?work=${quiz?.id ?? 0}&item=${encodeURIComponent(item)}`;
