"use client";

import { Select } from "antd";
import { useEffect, useId, useRef, useState } from "react";
import { placeOfJob, siteOfJob } from "@/core/document/place";
import { coordinatesInWords, parseCoordinates } from "@/core/reference/weather/coordinates";
import { call } from "@/contract/client";
import { foundPlaces, type FoundPlace } from "@/contract/places";
import { useReading, useSheet } from "../state/sheet-context";
import { say } from "@/core/messages/say";

/** Long enough that a search does not begin at every letter. */
const SETTLE_MS = 180;

const countries = new Intl.DisplayNames("en", { type: "region" });

/** A place as a line of the list reads: its name, its region where letters say it, its country. */
export function placeName({ name, country, region }: FoundPlace): string {
  const state =
    country === "US" || country === "CA" || country === "AU" ? (/^[A-Z]{2,3}$/.test(region) ? region : "") : "";
  return [name, state, country ? countries.of(country) : ""].filter(Boolean).join(", ");
}

/** The place of the job: searched in the gazetteer that ships with the application, or typed as coordinates. */
export function PlaceLine() {
  const { job, assessment } = useReading();
  const change = useSheet((state) => state.change);
  const id = useId();
  const [found, setFound] = useState<FoundPlace[] | null>(null);
  const [text, setText] = useState("");
  const [fault, setFault] = useState("");
  const asked = useRef(0);
  const { known, why } = placeOfJob(job);
  const here = assessment.values.place;
  const from = known ? `&lat=${here.latitude.value}&lon=${here.longitude.value}` : "";

  useEffect(() => {
    if (text.trim().length < 2) return;
    const mine = ++asked.current;
    const wait = setTimeout(() => {
      const coordinates = parseCoordinates(text);
      if (coordinates) {
        setFault("");
        return setFound([{ name: "", country: "", region: "", ...coordinates, station: null, km: null }]);
      }
      void call(foundPlaces, `/api/places?q=${encodeURIComponent(text)}${from}`)
        .then(({ places }) => {
          if (mine !== asked.current) return;
          setFound(places);
          setFault("");
        })
        .catch(
          (error: Error) =>
            mine === asked.current &&
            setFault(say("interface.searchFailed", { why: error.message.replace(/\.$/, "") })),
        );
    }, SETTLE_MS);
    return () => clearTimeout(wait);
  }, [text, from]);

  const choose = (index: number) => {
    const place = found?.[index];
    if (!place) return;
    change((draft) => {
      // A place brings its own coordinates, clock and climate; what was entered of another says nothing of it.
      draft.place = { listed: place.station, timeZone: null };
      delete draft.supplies.altitude;
      if (!place.station) {
        draft.place.latitude = { value: place.latitude, origin: "plate" };
        draft.place.longitude = { value: place.longitude, origin: "plate" };
      }
      draft.brief.place = placeName(place);
    });
    setText("");
    setFound(null);
  };
  const label = siteOfJob(job).name;
  return (
    <div className="line choice place-line" data-path="place">
      <div className="line-row">
        <label htmlFor={id}>Place</label>
        <Select<number | string>
          id={id}
          size="small"
          showSearch={{ filterOption: false, onSearch: setText }}
          value={label || undefined}
          placeholder="Choose a place"
          status={known ? undefined : "warning"}
          popupMatchSelectWidth={false}
          onChange={(chosen) => typeof chosen === "number" && choose(chosen)}
          onOpenChange={(open) => {
            if (!open) {
              setText("");
              setFound(null);
            }
          }}
          notFoundContent={
            <span className="note">
              {fault ||
                (text.trim().length < 2
                  ? say("interface.placeType")
                  : found
                    ? say("interface.placeNone")
                    : "Searching")}
            </span>
          }
          options={(text.trim().length < 2 ? [] : (found ?? [])).map((place, index) => ({
            value: index,
            label: (
              <span>
                {place.name ? placeName(place) : "Use these coordinates"}{" "}
                <span className="note">
                  {coordinatesInWords(place.latitude, place.longitude)}
                  {place.km === null ? "" : ` · ${place.km} km away`}
                </span>
              </span>
            ),
          }))}
        />
      </div>
      <p className="note">
        {known ? say("interface.place.climate", { why }) : say("interface.place.needed")} <PlaceSource />
      </p>
    </div>
  );
}

/** Where the gazetteer comes from. */
const PlaceSource = () => <span>{say("interface.place.source")}</span>;
