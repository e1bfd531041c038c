package app.ironside.kit;

import app.ironside.BadInputException;
import java.util.List;

/** One optical train with its mount, camera, filters, guider and focuser. */
public record Kit(
        String name,
        Optics optics,
        Sensor sensor,
        List<FilterSpec> filters,
        FocuserSpec focuser,
        MountSpec mount,
        GuiderSpec guider) {
    public Kit {
        filters = List.copyOf(filters);
        if (filters.isEmpty()) {
            throw new IllegalArgumentException(
                    "kit " + name + " has no filter; expected at least one, \"none\" if open");
        }
    }

    /** Image scale of the main camera, arcseconds per pixel. */
    public double arcsecPerPixel() {
        return Sampling.arcsecPerPixel(sensor.pixelUm(), optics.focalLengthMm());
    }

    /** Half the diagonal of the main camera's field, degrees. */
    public double fieldRadiusDeg() {
        return Math.hypot(sensor.widthPx(), sensor.heightPx()) / 2 * arcsecPerPixel() / 3600;
    }

    /**
     * The slot of a filter, from 0.
     *
     * @throws BadInputException if the kit has no such filter
     */
    public int filterSlot(String filterName) {
        for (int slot = 0; slot < filters.size(); slot++) {
            if (filters.get(slot).name().equals(filterName)) {
                return slot;
            }
        }
        List<String> names = filters.stream().map(FilterSpec::name).toList();
        throw new BadInputException("filter \"" + filterName + "\"", "kit " + name + " has none", "one of " + names);
    }
}
