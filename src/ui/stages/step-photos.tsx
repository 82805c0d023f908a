"use client";

import { App, Button, Image } from "antd";
import { v4 as uuid } from "uuid";
import { MOST_STEP_PHOTOS } from "@/core/document/schema";
import { say } from "@/core/messages/say";
import type { Photos } from "../state/use-photos";

interface ButtonProps {
  title: string;
  photos: Photos;
  ids: readonly string[];
  onIds(ids: string[]): void;
}

/** Takes a photo of a step, or several that are there already. */
export function PhotoButton({ title, photos, ids, onIds }: ButtonProps) {
  const { message } = App.useApp();
  const take = async (files: File[]) => {
    const taken = files.slice(0, Math.max(0, MOST_STEP_PHOTOS - ids.length));
    if (taken.length < files.length)
      void message.warning(say("interface.mostStepPhotos", { most: MOST_STEP_PHOTOS }), 6);
    const added = taken.map((file) => ({ id: uuid(), file }));
    // On this device before the step refers to it.
    for (const { id, file } of added) await photos.add(id, file);
    if (added.length > 0) onIds([...ids, ...added.map(({ id }) => id)]);
  };
  return (
    <label className="step-photo">
      Photo
      <input
        type="file"
        multiple
        accept="image/jpeg,image/png,image/webp"
        aria-label={`Photo: ${title}`}
        onChange={({ target }) => {
          const files = [...(target.files ?? [])];
          target.value = "";
          take(files).catch((error: Error) => void message.error(error.message, 6));
        }}
      />
    </label>
  );
}

/** The photos of a step, small, each opened by a press. */
export function StepPhotos({ title, photos, ids, onIds }: ButtonProps) {
  if (ids.length === 0) return null;
  return (
    <ul className="step-photos" aria-label={`Photos: ${title}`}>
      <Image.PreviewGroup>
        {ids.map((id, at) => {
          const { small, whole, waits, refused } = photos.of(id);
          return (
            <li key={id} data-waits={waits ? "" : undefined}>
              <Image
                src={small}
                preview={{ src: whole, cover: null }}
                alt={`${title}, photo ${at + 1} of ${ids.length}`}
                height={72}
              />
              {refused !== undefined ? (
                <span role="alert" className="heat note">
                  {refused}
                </span>
              ) : (
                waits && <span className="note">{say("interface.photoWaits")}</span>
              )}
              <Button
                type="link"
                size="small"
                aria-label={`Remove photo ${at + 1}`}
                onClick={() => {
                  onIds(ids.filter((one) => one !== id));
                  if (refused !== undefined) void photos.drop(id);
                }}
              >
                Remove
              </Button>
            </li>
          );
        })}
      </Image.PreviewGroup>
    </ul>
  );
}
