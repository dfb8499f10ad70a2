import type { PlacePage } from '@/core/places/model';

/** What each dialog of a place is given. */
export interface PlaceDialogProps {
  readonly page: PlacePage;
  readonly onClose: () => void;
}
