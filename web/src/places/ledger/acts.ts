const acts: Record<string, string> = {
  'person.sign-in': 'signed in as',
  'person.add': 'added',
  'import.standards': 'brought in standards from',
  'import.roster': 'brought in a roster from',
  'import.items': 'brought in items from',
  'bandSet.add': 'made the band set',
  'bandSet.change': 'changed the band set',
  'assessment.start': 'started',
  'assessment.outline': 'changed the outline of',
  'assessment.blueprint': 'changed the blueprint of',
  'assessment.lines': 'arranged the lines of',
  'assessment.bands': 'chose the bands of',
  'assessment.seal': 'sealed',
  'assessment.edition': 'began a new edition of',
  'assessment.close': 'closed',
  'distribution.send': 'sent',
  'door.open': 'opened the door of',
  'door.paused': 'paused',
  'door.closed': 'closed the door of',
  'attempt.begin': 'began',
  'attempt.hand-in': 'handed in',
}

/** An act in words; one that this page does not know yet stands as it is kept. */
export function actText(act: string): string {
  return acts[act] ?? act
}
