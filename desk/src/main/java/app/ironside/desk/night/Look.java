package app.ironside.desk.night;

import app.ironside.desk.picture.PictureLevels;
import app.ironside.journal.NightEvent;
import java.util.Optional;

/**
 * What a bench is to show.
 *
 * @param chosen the event whose evidence is wanted, if one was clicked
 * @param shown the picture that belongs there, once it is loaded
 * @param arcsecPerPixel of the night's main camera
 * @param glance what has to be seen at once
 */
public record Look(
        Moment moment,
        Optional<NightEvent> chosen,
        RibbonState ribbon,
        Optional<PictureLevels> shown,
        double arcsecPerPixel,
        RunGlance glance) {}
