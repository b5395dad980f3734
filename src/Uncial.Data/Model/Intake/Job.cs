using System.ComponentModel.DataAnnotations;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Uncial.Data.Model;

/// <summary>A job ticket: one vehicle, the parts that came off it.</summary>
public class Job
{
    /// <summary>Job numbers have up to seven digits.</summary>
    public const int LargestNumber = 9_999_999;

    public int Id { get; set; }
    public int Number { get; set; }

    [MaxLength(120)]
    public required string Vehicle { get; set; }

    [MaxLength(120)]
    public string? Customer { get; set; }
    public int? OdometerKm { get; set; }
    public DateTimeOffset? PromisedAt { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
    public int ReceivedById { get; set; }
    public Operator? ReceivedBy { get; set; }
    public List<Part> Parts { get; } = [];
}

internal sealed class JobTable : IEntityTypeConfiguration<Job>
{
    public void Configure(EntityTypeBuilder<Job> builder)
    {
        builder.HasIndex(j => j.Number).IsUnique();
        builder.Property(j => j.Number).HasDefaultValueSql("nextval('job_number')");
        builder.HasOne(j => j.ReceivedBy).WithMany().OnDelete(DeleteBehavior.Restrict);
    }
}
