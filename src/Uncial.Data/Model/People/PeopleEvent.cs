using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>What was done to a person's account.</summary>
public enum PeopleAct
{
    Added,
    Renamed,
    RoleChanged,
    PaceChanged,
    PinChanged,
    OwnPinChanged,
    Disabled,
    Enabled,
    Unlocked,
    ScreenEnrolled,
    ScreenRetired,
    ScreenPinned,
    InstructsChanged,
}

/// <summary>Something done to a person's account or a screen, by whom and when.</summary>
public class PeopleEvent : Fact
{
    public PeopleAct Act { get; set; }
    public int? OperatorId { get; set; }
    public int? ScreenId { get; set; }

    [MaxLength(120)]
    public string? Detail { get; set; }
}

internal sealed class PeopleEventTable : IEntityTypeConfiguration<PeopleEvent>
{
    public void Configure(EntityTypeBuilder<PeopleEvent> builder)
    {
        builder.ToTable("people_events");
    }
}
