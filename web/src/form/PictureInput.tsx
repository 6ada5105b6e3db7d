import { ImagePlus, X } from "lucide-react";
import { use, useId, useState } from "react";
import { bringPicture, Pictures } from "../model/pictures";
import { useFileDrop } from "../ui/useFileDrop";
import type { InputProps } from "./input";

/** A picture: chosen as a file, pasted or dropped. What stands in the field is its identity. */
export function PictureInput({ id, text, type, field, aria }: InputProps) {
  const [said, setSaid] = useState("");
  const chooser = useId();
  const pictures = use(Pictures);
  const shut = aria.readOnly;
  const take = async (file: File | undefined) => {
    if (!file || shut) return;
    setSaid("The picture is being taken in …");
    try {
      type(await bringPicture(pictures, file));
      setSaid("");
    } catch (e) {
      setSaid((e as Error).message);
    }
  };
  const { drop } = useFileDrop(take);
  return (
    <div className="in picture" onPaste={(e) => take(e.clipboardData.files[0])} {...drop}>
      <button
        id={id}
        type="button"
        tabIndex={aria.tabIndex}
        aria-describedby={aria["aria-describedby"]}
        aria-label={`${field.label}: ${text ? "another picture" : "choose a picture"}`}
        disabled={shut}
        onClick={() => document.getElementById(chooser)?.click()}
        onKeyDown={(e) => {
          if (e.key !== "Delete" && e.key !== "Backspace") return;
          e.preventDefault();
          type("");
        }}
      >
        {text ? (
          <img src={`${pictures}/${encodeURIComponent(text)}?small=true`} alt={field.label} />
        ) : (
          <>
            <ImagePlus size={18} aria-hidden="true" /> drop, paste or choose
          </>
        )}
      </button>
      {text && !shut && (
        <button
          type="button"
          tabIndex={-1}
          className="btn quiet icon"
          aria-label={`Take the picture out of ${field.label}`}
          onClick={() => type("")}
        >
          <X size={14} aria-hidden="true" />
        </button>
      )}
      <input
        id={chooser}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-hidden="true"
        accept="image/jpeg,image/png,image/gif,image/bmp"
        onChange={(e) => {
          take(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
      {said && (
        <span className="say" role="status">
          {said}
        </span>
      )}
    </div>
  );
}
