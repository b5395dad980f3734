using System.ComponentModel.DataAnnotations;

namespace Uncial.Data.Practice;

/// <summary>A lesson that the shop has written or taken in. Kept and removed by the database's own functions alone.</summary>
public class OwnLesson
{
    /// <summary>Its name in addresses and files.</summary>
    [MaxLength(60)]
    public required string Id { get; set; }

    /// <summary>Its file.</summary>
    public required string Text { get; set; }

    /// <summary>The lead or owner who kept it last.</summary>
    public int KeptById { get; set; }

    public DateTimeOffset KeptAt { get; set; }
}
