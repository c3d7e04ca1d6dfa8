/** The views of the places that have several, by the ids that stand in their addresses. */
export const PLACE_VIEWS = {
  day: [
    { id: 'plan', label: 'Plan' },
    { id: 'now', label: 'Now' },
    { id: 'stock', label: 'Stock' },
    { id: 'shopping', label: 'Course and shopping' },
  ],
  faces: [
    { id: 'grade', label: 'Inspect' },
    { id: 'many', label: 'Many pictures' },
    { id: 'calls', label: 'Blind calls' },
    { id: 'criteria', label: 'Zone criteria' },
  ],
  links: [
    { id: 'link', label: 'Loss budget' },
    { id: 'ports', label: 'Polarity' },
    { id: 'references', label: 'References' },
    { id: 'splices', label: 'Splices' },
    { id: 'costs', label: 'Joint loss' },
    { id: 'traces', label: 'Traces' },
    { id: 'bench', label: 'Instruments' },
  ],
  insight: [
    { id: 'who', label: 'Who needs what' },
    { id: 'skills', label: 'How it is learned' },
    { id: 'loss', label: 'Loss' },
    { id: 'why', label: 'Why it fails' },
    { id: 'what-if', label: 'What if' },
    { id: 'instructors', label: 'Instructors and items' },
  ],
  setup: [
    { id: 'people', label: 'People' },
    { id: 'equipment', label: 'Equipment' },
    { id: 'methods', label: 'Methods' },
    { id: 'practice', label: 'Practice options' },
    { id: 'policy', label: 'Competence policy' },
  ],
} as const;

/** Where an instructor goes, in the order in which it is shown. */
export const PLACES = [
  { name: 'today', label: 'Today', views: [] },
  { name: 'day', label: 'Day', views: PLACE_VIEWS.day },
  { name: 'faces', label: 'Faces', views: PLACE_VIEWS.faces },
  { name: 'links', label: 'Links', views: PLACE_VIEWS.links },
  { name: 'insight', label: 'Insight', views: PLACE_VIEWS.insight },
  { name: 'retraining', label: 'Retraining', views: [] },
  { name: 'records', label: 'Records', views: [] },
  { name: 'setup', label: 'Class', views: PLACE_VIEWS.setup },
] as const;
