import type { InspectionView, JobView } from "../../api/client";
import type { useInspection } from "../../data/useInspection";

/** What every part of the inspection is given. */
export interface PartProps {
  job: JobView;
  inspection: ReturnType<typeof useInspection>;
  view: InspectionView;
}
