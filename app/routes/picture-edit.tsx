import { useNavigate } from "react-router";
import { PictureEditor } from "../pictures/editor/picture-editor";
import type { Route } from "./+types/picture-edit";

/** A picture by itself, for its address. */
export default function PictureEdit({ params }: Route.ComponentProps) {
  const navigate = useNavigate();
  return (
    <PictureEditor
      key={params.picture}
      id={params.picture}
      onClose={() => void navigate("/pictures")}
      onSaved={() => void navigate("/pictures")}
    />
  );
}
